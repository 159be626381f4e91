package io.vacancy.jdbc.internal.traversal;

import io.vacancy.jdbc.spi.Sql;
import io.vacancy.schema.Relation;
import io.vacancy.schema.TableName;
import java.util.List;
import org.jspecify.annotations.Nullable;

/**
 * Something that may stand in the way: child rows that refer to rows which would go, or rows that cannot come back.
 *
 * @param relation through which they do, or null where it is about the rows themselves
 * @param which which rows t of the table; there may be none
 * @param hidden whether they are outside the scope of who asks, who is not told more
 * @param permittedRules rules that a request may ask for instead
 */
record FoundBlocker(
        TableName table,
        @Nullable Relation relation,
        Sql which,
        String reason,
        boolean hidden,
        List<String> permittedRules) {

    FoundBlocker(Relation relation, Sql which, String reason, boolean hidden, List<String> permittedRules) {
        this(relation.child(), relation, which, reason, hidden, permittedRules);
    }

    /** The relation of what stands in the way of something that goes. */
    Relation through() {
        if (relation == null) {
            throw new IllegalStateException(reason + " is through no relation");
        }
        return relation;
    }

    /** The relation's written form, or null. */
    @Nullable
    String name() {
        return relation == null ? null : relation.name();
    }
}
