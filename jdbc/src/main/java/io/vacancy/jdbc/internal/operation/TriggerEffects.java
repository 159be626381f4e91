// SPDX-License-Identifier: Apache-2.0
package io.vacancy.jdbc.internal.operation;

import io.vacancy.jdbc.OwnTables;
import io.vacancy.jdbc.internal.session.Session;
import io.vacancy.jdbc.internal.session.StatementContext;
import io.vacancy.jdbc.spi.ChangeCounts;
import io.vacancy.jdbc.spi.Sql;
import io.vacancy.preview.Action;
import io.vacancy.preview.CountText;
import io.vacancy.preview.Effect;
import io.vacancy.preview.Impact;
import io.vacancy.schema.Table;
import io.vacancy.schema.TableName;
import io.vacancy.spi.plan.ExecutionPlan;
import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Set;
import java.util.TreeSet;
import java.util.stream.Collectors;

/**
 * What triggers did in other tables while a plan was carried out, as far as the engine counts it. Vacancy did not see
 * those rows before, so there is no copy of them.
 */
public final class TriggerEffects {

    private static final StatementContext COUNTING = new StatementContext("counting what triggers change", null, null);

    private final Session session;
    private final ChangeCounts counts;
    private final OwnTables tables;
    private final ExecutionPlan plan;
    private final Set<String> triggers = new TreeSet<>();
    private final Map<TableName, Changes> byTable;
    private final long inAll;
    private final long byUs;

    private record Changes(long added, long changed, long removed) {

        Changes since(Changes before) {
            return new Changes(added - before.added, changed - before.changed, removed - before.removed);
        }

        boolean any() {
            return added + changed + removed > 0;
        }
    }

    /** Begins to count, before anything is changed. */
    public TriggerEffects(Session session, OwnTables tables, ExecutionPlan plan) {
        this.session = session;
        this.counts = session.dialect().changeCounts();
        this.tables = tables;
        this.plan = plan;
        touched().forEach(name -> {
            Table table = plan.program().schema().table(name);
            table.triggers().forEach(trigger -> triggers.add(table + "." + trigger));
        });
        this.byTable = byTable();
        this.inAll = inAll();
        this.byUs = session.changedRows();
    }

    private Set<TableName> touched() {
        Set<TableName> touched = new TreeSet<>(plan.program().tables());
        plan.program().changes().forEach(branch -> touched.add(branch.relation().child()));
        plan.writes().parents().forEach(parent -> touched.add(parent.relation().parent()));
        return touched;
    }

    private Map<TableName, Changes> byTable() {
        Map<TableName, Changes> changes = new LinkedHashMap<>();
        String query = counts.byTable();
        if (query != null && !triggers.isEmpty()) {
            session.forEach(
                    Sql.of(query),
                    COUNTING,
                    row -> changes.put(
                            new TableName(row.getString(1), row.getString(2)),
                            new Changes(row.getLong(3), row.getLong(4), row.getLong(5))));
        }
        return changes;
    }

    private long inAll() {
        String query = counts.inAll();
        return query == null || triggers.isEmpty() ? 0 : session.number(Sql.of(query), COUNTING);
    }

    /** What was done, with what triggers did besides. */
    public Impact told(Impact done) {
        if (triggers.isEmpty()) {
            return done;
        }
        List<String> warnings = new ArrayList<>(done.warnings());
        String who = "The triggers " + String.join(", ", triggers);
        byTable().forEach((table, now) -> {
            Changes since = now.since(byTable.getOrDefault(table, new Changes(0, 0, 0)));
            Changes besides = touched().contains(table)
                    // What Vacancy itself changes here is not all in the effects; what it removes is.
                    ? new Changes(0, 0, since.removed - removed(done, table))
                    : since;
            if (besides.any() && tables.nameOf(table).isEmpty()) {
                boolean kept = plan.archivePolicy().besides().contains(table) && besides.added + besides.changed == 0;
                warnings.add(who + " have also " + words(besides) + " in " + table
                        + (kept ? "; a copy of them is archived." : "; no copy of them is archived."));
            }
        });
        long besides = inAll() - inAll - (session.changedRows() - byUs);
        if (counts.inAll() != null && besides > 0) {
            warnings.add(who + " have also changed " + CountText.rows(besides) + "; no copy of them is archived.");
        }
        return done.toBuilder().warnings(warnings).build();
    }

    private static long removed(Impact done, TableName table) {
        return done.effects().stream()
                .filter(effect -> effect.table().equals(table) && effect.action() == Action.DELETE)
                .mapToLong(Effect::rows)
                .sum();
    }

    private static String words(Changes changes) {
        return Map.of("added", changes.added, "changed", changes.changed, "removed", changes.removed)
                .entrySet()
                .stream()
                .filter(each -> each.getValue() > 0)
                .sorted(Map.Entry.comparingByKey())
                .map(each -> each.getKey() + " " + CountText.rows(each.getValue()))
                .collect(Collectors.joining(", "));
    }
}
