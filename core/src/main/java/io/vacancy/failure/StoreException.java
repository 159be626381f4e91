// SPDX-License-Identifier: Apache-2.0
package io.vacancy.failure;

import org.jspecify.annotations.Nullable;

/**
 * The database failed or refused a statement. The cause is the driver's own exception; the message adds
 * which step it was and which table it was about.
 */
public final class StoreException extends VacancyException {

    private final String step;
    private final @Nullable String table;
    private final @Nullable String relation;

    public StoreException(
            String message,
            @Nullable String hint,
            String step,
            @Nullable String table,
            @Nullable String relation,
            @Nullable Throwable cause) {
        super(message, hint, cause);
        this.step = step;
        this.table = table;
        this.relation = relation;
    }

    /** The same, told by somebody who knows that whatever was done before is undone. */
    public StoreException nothingChanged() {
        return new StoreException(getMessage() + " Nothing was changed.", hint(), step, table, relation, getCause());
    }

    @Override
    public String kind() {
        return "store";
    }

    /** What was being done, such as "removing rows". */
    public String step() {
        return step;
    }

    /** The table it was about, or null where it was about none. */
    public @Nullable String table() {
        return table;
    }

    /** The relation that was being followed, or null where none was. */
    public @Nullable String relation() {
        return relation;
    }
}
