// SPDX-License-Identifier: Apache-2.0
package io.vacancy.jdbc.internal.sql;

import io.vacancy.jdbc.spi.Sql;
import io.vacancy.jdbc.spi.Syntax;
import io.vacancy.schema.Discriminator;
import io.vacancy.schema.Relation;
import java.util.stream.Collectors;

/** Whether a child row refers to anything by a relation, whatever is there. */
public final class Referring {

    private Referring() {}

    /** No column of the link is NULL, and the row is of the kind that refers. */
    public static Sql refers(Relation relation, Syntax syntax, String child) {
        String links = relation.childColumns().stream()
                .map(column -> child + "." + syntax.quote(column) + " IS NOT NULL")
                .collect(Collectors.joining(" AND "));
        return Sql.of(links + (relation.list() ? " AND " + syntax.refersByList(relation, child) : ""))
                .add(andKind(relation, syntax, child));
    }

    /** To stand behind what joins the two: that the child row is of the kind that refers; nothing where all are. */
    public static Sql andKind(Relation relation, Syntax syntax, String child) {
        Discriminator only = relation.discriminator();
        return only == null
                ? new Sql()
                : Sql.of(" AND " + child + "." + syntax.quote(only.column().name()) + " = ")
                        .bind(only.value(), only.column().type());
    }
}
