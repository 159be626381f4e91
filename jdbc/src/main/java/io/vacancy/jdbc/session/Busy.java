package io.vacancy.jdbc.session;

import java.sql.SQLException;

/** Somebody else holds what a statement needed. Caught inside the store and told as an outcome. */
public final class Busy extends RuntimeException {

    private final Context context;
    private final boolean deadlock;

    Busy(Context context, boolean deadlock, SQLException cause) {
        super(Faults.firstLine(cause), cause);
        this.deadlock = deadlock;
        this.context = context;
    }

    /** Whether this transaction lost against another one, so that another attempt may win. */
    public boolean deadlock() {
        return deadlock;
    }

    public Context context() {
        return context;
    }
}
