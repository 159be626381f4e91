package io.vacancy.jdbc.session;

import java.sql.SQLException;

/** Somebody else holds what a statement needed. Caught inside the store and told as an outcome. */
public final class Busy extends RuntimeException {

    private final Context context;

    Busy(Context context, SQLException cause) {
        super(cause.getMessage(), cause);
        this.context = context;
    }

    public Context context() {
        return context;
    }
}
