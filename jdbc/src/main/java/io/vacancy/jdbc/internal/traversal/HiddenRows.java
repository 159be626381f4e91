// SPDX-License-Identifier: Apache-2.0
package io.vacancy.jdbc.internal.traversal;

import io.vacancy.jdbc.internal.session.Session;
import io.vacancy.jdbc.internal.session.StatementContext;
import io.vacancy.schema.Relation;
import io.vacancy.schema.Schema;
import io.vacancy.schema.TableName;
import io.vacancy.spi.plan.ExecutionPlan;
import java.util.ArrayList;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Set;

/** Which tables may have rows that a policy hides from this session, and a deletion would reach all the same. */
public final class HiddenRows {

    private HiddenRows() {}

    /** Of tables that refer to what a plan takes; the selection itself is what the session sees. */
    public static List<TableName> in(Session session, ExecutionPlan plan) {
        Schema schema = plan.program().schema();
        Set<TableName> children = new LinkedHashSet<>();
        for (TableName table : plan.program().tables()) {
            for (Relation relation : schema.relationsTo(table)) {
                children.add(relation.child());
            }
        }
        List<TableName> hiding = new ArrayList<>();
        for (TableName child : children) {
            if (schema.table(child).policed()
                    && session.number(
                                    session.dialect()
                                            .catalogue()
                                            .policesSession(
                                                    session.dialect().syntax().table(child)),
                                    StatementContext.of("looking for policies on", child))
                            != 0) {
                hiding.add(child);
            }
        }
        return hiding;
    }
}
