// SPDX-License-Identifier: Apache-2.0
package io.vacancy.jdbc.internal.archive;

import io.vacancy.archive.ArchiveQuery;
import io.vacancy.jdbc.OwnTables;
import io.vacancy.jdbc.internal.archive.ArchiveReader.Line;
import io.vacancy.jdbc.internal.operation.RowsToArchive;
import io.vacancy.jdbc.internal.session.Session;
import io.vacancy.jdbc.spi.Dialect;
import io.vacancy.jdbc.spi.Sql;
import io.vacancy.schema.Schema;
import io.vacancy.schema.Table;
import io.vacancy.schema.TableName;
import io.vacancy.spi.plan.ExecutionPlan;
import java.util.List;

/**
 * Rows of tables that the rule book names, and that triggers remove. Since nobody knows which before it is done, all of
 * them are archived before, and those that are still there afterwards are taken out of the archive again.
 */
public final class RowsOfTriggers {

    private static final String REACHED = "triggers";

    private final Session session;
    private final Dialect dialect;
    private final OwnTables tables;
    private final ExecutionPlan plan;
    private final List<Table> besides;

    public RowsOfTriggers(Session session, OwnTables tables, ExecutionPlan plan) {
        this.session = session;
        this.dialect = session.dialect();
        this.tables = tables;
        this.plan = plan;
        Schema schema = plan.program().schema();
        boolean fires = plan.program().tables().stream()
                .anyMatch(table -> !schema.table(table).triggers().isEmpty());
        this.besides = plan.archivePolicy().besides().stream()
                .sorted()
                .map(schema::table)
                .filter(table -> fires
                        && table.identity().lasts()
                        && plan.archivePolicy().keeps(table.name()))
                .toList();
    }

    /** All of their rows. To be archived before anything goes. */
    public List<RowsToArchive> before() {
        return besides.stream()
                .map(table -> RowsToArchive.whole(table, REACHED, Sql.of("1 = 1"), null, null))
                .toList();
    }

    /** Leaves in the archive what is no longer there. To be called when everything is gone that goes. */
    public void after() {
        if (besides.isEmpty()) {
            return;
        }
        List<TableName> names = besides.stream().map(Table::name).toList();
        ArchiveQuery ofThis =
                ArchiveQuery.all().receipts(List.of(plan.archivePolicy().receipt()));
        for (Line line : new ArchiveReader(session, tables, plan.program().schema()).list(ofThis)) {
            TableName table = line.archived().table();
            if (REACHED.equals(line.archived().relation()) && names.contains(table)) {
                keepWhatIsGone(line, plan.program().schema().table(table));
            }
        }
    }

    private void keepWhatIsGone(Line line, Table table) {
        StagingTable stage = StagingTable.ofRows(session, tables, table, true, true);
        Sql still = Sql.of("EXISTS (SELECT 1 FROM " + dialect.syntax().table(table.name()) + " o WHERE "
                + stage.same("o", "t") + ")");
        stage.fill(List.of(line), 0, still);
        ImageRemoval removal = new ImageRemoval(session, tables);
        if (removal.remove(line, stage) == line.archived().there()) {
            removal.forget(line);
        } else {
            removal.settle(line);
        }
    }
}
