// SPDX-License-Identifier: Apache-2.0
package io.vacancy.jdbc.internal.archive;

import io.vacancy.archive.ArchivedColumn;
import io.vacancy.jdbc.OwnTables;
import io.vacancy.jdbc.internal.session.Session;
import io.vacancy.jdbc.internal.session.StatementContext;
import io.vacancy.jdbc.internal.tables.TextDigest;
import io.vacancy.jdbc.spi.Dialect;
import io.vacancy.jdbc.spi.Sql;
import io.vacancy.schema.ColumnType;
import io.vacancy.trail.ArchiveDigests;
import java.nio.charset.StandardCharsets;
import java.security.MessageDigest;
import java.util.ArrayList;
import java.util.HexFormat;
import java.util.List;
import java.util.Locale;
import org.jspecify.annotations.Nullable;

/**
 * Digests of images as they stand in the database: SHA-256 over the columns of a line, then over its images in the order of
 * their numbers. The engine computes them where it can, some thousand images at a time, so that nothing travels.
 */
final class ImageDigests {

    private static final StatementContext DIGESTING = new StatementContext("computing digests of images", null, null);

    /** So many images have a digest together: 64 digits of each stay below what engines put into one text. */
    private static final int TOGETHER = 8_192;

    private final Session session;
    private final Dialect dialect;
    private final String images;

    ImageDigests(Session session, OwnTables tables) {
        this.session = session;
        this.dialect = session.dialect();
        this.images = dialect.syntax().table(tables.table("image"));
    }

    /** A line of which the images are digested. */
    record Line(long receiptNo, int line, String table, List<ArchivedColumn> columns) {}

    /** One after the other, in the order in which they are given. */
    List<ArchiveDigests.Images> of(List<Line> lines) {
        List<Running> running = lines.stream().map(Running::new).toList();
        if (lines.isEmpty()) {
            return List.of();
        }
        if (dialect.images().digest("i", List.of("''")) == null) {
            running.forEach(this::read);
        } else {
            compute(running);
        }
        return running.stream().map(Running::finished).toList();
    }

    /** With one statement for all lines. */
    private void compute(List<Running> lines) {
        Sql select = new Sql();
        for (int i = 0; i < lines.size(); i++) {
            Line line = lines.get(i).line;
            String group = "i.row_no - MOD(i.row_no, " + TOGETHER + ")";
            select.add(i == 0 ? "" : " UNION ALL ")
                    .add("SELECT " + i + " AS place, " + group + " AS together, COUNT(*), "
                            + dialect.images().digest("i", texts(line)) + from(line) + " GROUP BY " + group);
        }
        session.forEach(
                Sql.of(dialect.images().digesting()).add(select).add(" ORDER BY place, together"),
                DIGESTING,
                row -> lines.get(row.getInt(1))
                        .add(row.getLong(3), row.getString(4).toLowerCase(Locale.ROOT)));
    }

    private void read(Running running) {
        List<String> texts = texts(running.line);
        session.forEach(
                Sql.of("SELECT " + String.join(", ", texts) + from(running.line) + " ORDER BY i.row_no"),
                DIGESTING,
                row -> {
                    for (int i = 1; i <= texts.size(); i++) {
                        running.add(i == 1 ? 1 : 0, row.getString(i));
                    }
                });
    }

    private String from(Line line) {
        return " FROM " + images + " i WHERE i.receipt_no = " + line.receiptNo() + " AND i.line = " + line.line();
    }

    private List<String> texts(Line line) {
        List<String> texts = new ArrayList<>();
        for (ArchivedColumn column : line.columns()) {
            ColumnType type = ArchivedColumns.cellType(column, dialect);
            String cell = dialect.images().encoding().cell("i", texts.size(), type);
            texts.add(dialect.images().cellText(cell, type));
        }
        return texts;
    }

    /** The digest of a line, as far as it is. */
    private static final class Running {

        private final Line line;
        private final MessageDigest digest = TextDigest.sha256();
        private long rows;

        private Running(Line line) {
            this.line = line;
            add(0, line.table());
            add(0, ArchivedColumns.written(line.columns()));
        }

        private void add(long more, @Nullable String text) {
            rows += more;
            byte[] bytes = text == null ? new byte[0] : text.getBytes(StandardCharsets.UTF_8);
            digest.update(((text == null ? -1 : bytes.length) + ":").getBytes(StandardCharsets.US_ASCII));
            digest.update(bytes);
        }

        private ArchiveDigests.Images finished() {
            return new ArchiveDigests.Images(
                    line.line(), line.table(), rows, HexFormat.of().formatHex(digest.digest()));
        }
    }
}
