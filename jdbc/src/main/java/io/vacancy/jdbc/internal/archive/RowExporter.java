// SPDX-License-Identifier: Apache-2.0
package io.vacancy.jdbc.internal.archive;

import io.vacancy.archive.ArchivedColumn;
import io.vacancy.archive.ArchivedRows;
import io.vacancy.archive.SaveTarget;
import io.vacancy.jdbc.internal.operation.RowsToArchive;
import io.vacancy.jdbc.internal.session.Session;
import io.vacancy.jdbc.internal.session.StatementContext;
import io.vacancy.jdbc.spi.Dialect;
import io.vacancy.jdbc.spi.Sql;
import io.vacancy.schema.ColumnType;
import io.vacancy.schema.Row;
import io.vacancy.spi.plan.ArchivePolicy;
import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import org.jspecify.annotations.Nullable;

/** Hands over a copy of everything that is about to go or to change, to be kept outside the database. */
public final class RowExporter {

    private final Session session;
    private final Dialect dialect;
    private final ArchivePolicy archivePolicy;

    public RowExporter(Session session, ArchivePolicy archivePolicy) {
        this.session = session;
        this.dialect = session.dialect();
        this.archivePolicy = archivePolicy;
    }

    /** Hands over all rows, and has the copy written to disk. */
    public void copy(List<RowsToArchive> archived, SaveTarget saver) {
        // Rows that are only marked stay, and of them there is nothing to copy.
        List<RowsToArchive> takes =
                archived.stream().filter(RowsToArchive::copies).toList();
        List<ArchivedRows> lines = new ArrayList<>();
        List<Image> images = new ArrayList<>();
        for (RowsToArchive taken : takes) {
            Image image = Image.copied(taken, dialect);
            images.add(image);
            Long rows = taken.rows();
            long known = rows == null ? 0 : rows;
            lines.add(ArchivedRows.of(new ArchivedRows.Data(
                    archivePolicy.receipt(),
                    1,
                    lines.size(),
                    taken.table().name(),
                    taken.kind(),
                    taken.relation(),
                    known,
                    known,
                    known,
                    archivePolicy.actor(),
                    archivePolicy.at(),
                    archivePolicy.because(),
                    null,
                    false,
                    image.columns(),
                    null)));
        }
        saver.begin(archivePolicy.receipt(), lines);
        for (int i = 0; i < takes.size(); i++) {
            hand(i, takes.get(i), images.get(i), saver);
        }
        saver.end();
    }

    private void hand(int line, RowsToArchive taken, Image image, SaveTarget saver) {
        Sql select = Sql.of("SELECT ");
        for (int i = 0; i < image.cells().size(); i++) {
            select.add(i == 0 ? "" : ", ").add(image.cells().get(i));
        }
        select.add(" FROM " + dialect.syntax().table(taken.table().name()) + " t WHERE ")
                .add(taken.which())
                .add(taken.rows() == null ? dialect.locking().forUpdate() : "");
        session.forEach(select, StatementContext.of("copying", taken.table().name()), result -> {
            Map<String, @Nullable Object> values = new LinkedHashMap<>();
            for (int i = 0; i < image.columns().size(); i++) {
                ArchivedColumn column = image.columns().get(i);
                ColumnType type = image.types().get(i);
                values.put(column.name(), dialect.values().readDecoded(result, i + 1, type));
            }
            saver.take(line, new Row(taken.table().name(), values));
        });
    }
}
