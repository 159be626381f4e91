// SPDX-License-Identifier: Apache-2.0
package io.vacancy.jdbc.internal.archive;

import io.vacancy.archive.ArchivedColumn;
import io.vacancy.archive.ArchivedRows;
import io.vacancy.failure.MisuseException;
import io.vacancy.jdbc.OwnTables;
import io.vacancy.jdbc.internal.archive.ArchiveReader.Line;
import io.vacancy.jdbc.internal.session.Session;
import io.vacancy.jdbc.internal.session.StatementContext;
import io.vacancy.jdbc.internal.traversal.KeySet;
import io.vacancy.jdbc.spi.Dialect;
import io.vacancy.jdbc.spi.Sql;
import io.vacancy.schema.Column;
import io.vacancy.schema.ColumnType;
import io.vacancy.schema.Row;
import io.vacancy.schema.Table;
import io.vacancy.schema.ValueKind;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.TreeMap;
import java.util.stream.Collectors;
import org.jspecify.annotations.Nullable;

/**
 * A temporary table of images that have become rows again, beside the table that they came from: what is asked of
 * them, and what stands in their way, is then asked of tables.
 */
final class StagingTable {

    /** The number of the image. */
    static final String IMAGE = "vacancy_image";
    /** The number of its receipt. */
    static final String RECEIPT = "vacancy_receipt";
    /** The number of its line. */
    static final String LINE = "vacancy_line";
    /** 0 for the selected rows, else the number of the relation through which they were reached, from 1. */
    static final String VIA = "vacancy_via";
    /** 0, or the number of what does not fit into the table as it is now, from 1. */
    static final String LOST = "vacancy_lost";

    private static final List<String> NUMBERS = List.of(IMAGE, RECEIPT, LINE, VIA, LOST);
    private static final int ROWS_AT_ONCE = 200;

    private final Session session;
    private final Dialect dialect;
    private final OwnTables tables;
    private final Table table;
    private final boolean links;
    private final boolean restorable;
    private final boolean stepwise;
    private final List<Column> columns;
    private final String name;
    private final List<String> key;
    private @Nullable StagingTable skipped;
    private final List<String> losses = new ArrayList<>();
    private final List<List<ArchivedRows>> layouts = new ArrayList<>();
    private final Map<ArchivedRows, Long> receipts = new HashMap<>();
    private final List<List<@Nullable Object>> waiting = new ArrayList<>();

    private StagingTable(
            Session session,
            OwnTables tables,
            Table table,
            List<Column> columns,
            boolean links,
            boolean restorable,
            boolean stepwise) {
        this.session = session;
        this.dialect = session.dialect();
        this.tables = tables;
        this.table = table;
        this.links = links;
        this.restorable = restorable;
        this.stepwise = stepwise;
        this.columns = columns;
        this.key = table.identity().lasts() ? table.identity().columns() : List.of();
        List<List<String>> unique = new ArrayList<>();
        if (restorable
                && !key.isEmpty()
                && (stepwise || links || dialect.temporaryTables().looksUpRowByRow())) {
            unique.add(key.stream().map(dialect.syntax()::quote).toList());
        }
        if (stepwise) {
            unique.add(List.of(IMAGE));
        }
        this.name = session.keyTables()
                .provide(
                        called -> links
                                ? dialect.temporaryTables().createPlainStage(called, columns, NUMBERS, unique)
                                : dialect.temporaryTables().createStage(called, table, columns, NUMBERS, unique),
                        StatementContext.of("preparing images of", table.name()));
    }

    /**
     * An empty one for whole rows.
     *
     * @param restorable whether only what can be brought back is meant, and of each key the newest
     * @param stepwise whether images are added step by step and looked for before, which wants an index on them
     */
    static StagingTable ofRows(Session session, OwnTables tables, Table table, boolean restorable, boolean stepwise) {
        return new StagingTable(session, tables, table, table.columns(), false, restorable, stepwise);
    }

    /** An empty one for what a link held and what was written into it. */
    static StagingTable ofLinks(Session session, OwnTables tables, Table table, List<String> link) {
        List<Column> columns = new ArrayList<>();
        table.identity().columns().forEach(name -> columns.add(table.column(name)));
        for (String name : link) {
            columns.add(renamed(table.column(name), ArchivedColumn.OLD));
            columns.add(renamed(table.column(name), ArchivedColumn.WRITTEN));
        }
        return new StagingTable(session, tables, table, columns, true, true, false);
    }

    /** An empty one for the keys of rows of which columns are archived, whatever those held. */
    static StagingTable ofKeys(Session session, OwnTables tables, Table table) {
        List<Column> columns =
                table.identity().columns().stream().map(table::column).toList();
        return new StagingTable(session, tables, table, columns, true, false, false);
    }

    /** An empty one for what marker columns held. */
    static StagingTable ofMarks(Session session, OwnTables tables, Table table, List<String> marker) {
        List<Column> columns = new ArrayList<>();
        table.identity().columns().forEach(name -> columns.add(table.column(name)));
        marker.forEach(name -> columns.add(renamed(table.column(name), ArchivedColumn.OLD)));
        return new StagingTable(session, tables, table, columns, true, true, false);
    }

    private static Column renamed(Column column, String before) {
        return new Column(before + column.name(), column.type(), true, false, false, null);
    }

    Table table() {
        return table;
    }

    /** As it stands after FROM. */
    String name() {
        return name;
    }

    /** The columns by which rows are told apart; none where only the engine can. */
    List<String> key() {
        return key;
    }

    /** What does not fit, by its number less 1. */
    List<String> losses() {
        return losses;
    }

    /** The lines that rows came from, those together that have the same columns. */
    List<List<ArchivedRows>> layouts() {
        return layouts;
    }

    /** Lines with the same columns go back in one statement: their rows may refer to one another. */
    private void layout(ArchivedRows line) {
        for (List<ArchivedRows> alike : layouts) {
            if (alike.get(0).columns().equals(line.columns())) {
                if (!alike.contains(line)) {
                    alike.add(line);
                }
                return;
            }
        }
        layouts.add(new ArrayList<>(List.of(line)));
    }

    /** The columns that the table has got since something of it was archived, in their order. */
    List<String> columnsSince() {
        return columns.stream()
                .filter(column -> !column.generated())
                .map(Column::name)
                .filter(name -> layouts.stream().anyMatch(alike -> alike.get(0).columns().stream()
                        .noneMatch(archived -> archived.name().equals(name))))
                .toList();
    }

    /** The number of the receipt that a line belongs to; 0 where it comes from outside the database. */
    long receiptNo(ArchivedRows line) {
        return receipts.getOrDefault(line, 0L);
    }

    long size() {
        return session.number(Sql.of("SELECT COUNT(*) FROM " + name), context("counting images of"));
    }

    /** That row s here is row t of the table, by their key. */
    String same(String here, String there) {
        return key.stream()
                .map(column -> here + "." + dialect.syntax().quote(column) + " = " + there + "."
                        + dialect.syntax().quote(column))
                .collect(Collectors.joining(" AND "));
    }

    /** That the row that row t here is of is there, and in a set. */
    Sql rowsIn(KeySet rows) {
        return Sql.of("EXISTS (SELECT 1 FROM " + dialect.syntax().table(table.name()) + " o WHERE " + same("o", "t")
                        + " AND ")
                .add(rows.contains("o"))
                .add(")");
    }

    /**
     * Adds images of some lines, each once.
     *
     * @param via what they were reached through
     * @param further what holds for the row t that an image becomes, or null
     * @return how many
     */
    long fill(List<Line> lines, int via, @Nullable Sql further) {
        Map<List<ArchivedColumn>, List<Line>> byLayout = new LinkedHashMap<>();
        lines.forEach(line -> byLayout.computeIfAbsent(line.archived().columns(), columns -> new ArrayList<>())
                .add(line));
        long filled = 0;
        for (List<Line> alike : byLayout.values()) {
            alike.forEach(line -> receipts.put(line.archived(), line.receiptNo()));
            alike.forEach(line -> layout(line.archived()));
            filled += session.update(insertion(alike, via, further, byLayout.size() > 1), context("reading images of"));
            decrypt(alike);
        }
        return filled;
    }

    private void decrypt(List<Line> lines) {
        List<ArchivedColumn> archived = lines.get(0).archived().columns();
        Map<Column, Integer> encrypted = new LinkedHashMap<>();
        for (Column column : columns) {
            for (int i = 0; i < archived.size(); i++) {
                if (archived.get(i).encrypted() && archived.get(i).name().equals(column.name())) {
                    encrypted.put(column, i);
                }
            }
        }
        if (!encrypted.isEmpty()) {
            new RowDecryption(session, this, this::number)
                    .run(archived, encrypted, images(lines), dialect.syntax().table(tables.table("image")));
        }
    }

    /** Adds the first images of a line. Returns how many. */
    long fillFirst(Line line, long most) {
        Sql insert = insertion(List.of(line), 0, null, false)
                .add(session.dialect().syntax().firstRows(most));
        return session.update(insert, context("reading images of"));
    }

    private Sql insertion(List<Line> lines, int via, @Nullable Sql further, boolean several) {
        List<ArchivedColumn> archived = lines.get(0).archived().columns();
        // One line has each row once, unless somebody has put in another.
        boolean newest = restorable
                && !key.isEmpty()
                && (lines.size() > 1 || (stepwise && dialect.syntax().numbersRowsInGroups()));
        List<String> values = new ArrayList<>();
        Sql image = Sql.of("SELECT ");
        for (Column column : columns) {
            image.add(value(column, archived)).add(" AS " + dialect.syntax().quote(column.name()) + ", ");
            values.add("t." + dialect.syntax().quote(column.name()));
        }
        image.add("i.row_no AS " + IMAGE + ", i.receipt_no AS " + RECEIPT + ", i.line AS " + LINE + ", " + via + " AS "
                + VIA + ", " + lost(archived) + " AS " + LOST);
        if (newest) {
            if (!dialect.syntax().numbersRowsInGroups()) {
                throw new MisuseException(
                        dialect.name() + " cannot find the newest of several archived copies of the same row of "
                                + table + ".",
                        "Restore or purge by receipt.");
            }
            image.add(", ROW_NUMBER() OVER (PARTITION BY ");
            for (int i = 0; i < key.size(); i++) {
                image.add(i == 0 ? "" : ", ").add(value(table.column(key.get(i)), archived));
            }
            image.add(" ORDER BY i.row_no DESC) AS vacancy_newest");
        }
        image.add(" FROM " + dialect.syntax().table(tables.table("image")) + " i WHERE (")
                .add(images(lines) + ")")
                .add(restorable ? " AND i.back_no IS NULL" : "");
        NUMBERS.forEach(number -> values.add("t." + number));
        Sql insert = Sql.of(
                        "INSERT INTO " + name + " (" + names() + ") SELECT " + String.join(", ", values) + " FROM (")
                .add(image)
                .add(") t WHERE " + (newest ? "t.vacancy_newest = 1" : "1 = 1"));
        if (several && restorable && !key.isEmpty()) {
            insert.add(" AND NOT EXISTS (SELECT 1 FROM " + name + " o WHERE " + same("o", "t") + ")");
        }
        return further == null ? insert : insert.add(" AND ").add(further);
    }

    /** That an image i is of one of some lines, without a term for each. */
    private static String images(List<Line> lines) {
        return lines.stream()
                .collect(Collectors.groupingBy(
                        line -> line.archived().line(),
                        TreeMap::new,
                        Collectors.mapping(line -> Long.toString(line.receiptNo()), Collectors.joining(", "))))
                .entrySet()
                .stream()
                .map(of -> "(i.line = " + of.getKey() + " AND i.receipt_no IN (" + of.getValue() + "))")
                .collect(Collectors.joining(" OR "));
    }

    /** That the image that row t comes from is not here yet. */
    String notHere() {
        return "NOT EXISTS (SELECT 1 FROM " + name + " o WHERE o." + IMAGE + " = t." + IMAGE + ")";
    }

    private String names() {
        return columns.stream()
                        .map(column -> dialect.syntax().quote(column.name()))
                        .collect(Collectors.joining(", ")) + ", " + String.join(", ", NUMBERS);
    }

    private Sql value(Column column, List<ArchivedColumn> archived) {
        for (int i = 0; i < archived.size(); i++) {
            // What is encrypted is put in once it is read.
            if (archived.get(i).name().equals(column.name()) && !archived.get(i).encrypted()) {
                ColumnType then =
                        dialect.catalogue().reader().type(archived.get(i).declared());
                return column.type().takes(then)
                        ? Sql.of(dialect.images()
                                .fromCell(dialect.images().encoding().cell("i", i, then), column.type()))
                        : dialect.syntax().typed(Sql.of("NULL"), column.type());
            }
        }
        return dialect.syntax().typed(Sql.of("NULL"), column.type());
    }

    /** The number of what does not fit, for an image i. */
    private String lost(List<ArchivedColumn> archived) {
        StringBuilder cases = new StringBuilder();
        for (int i = 0; i < archived.size(); i++) {
            String loss = loss(archived.get(i));
            ColumnType then = ArchivedColumns.cellType(archived.get(i), dialect);
            String cell = dialect.images().encoding().cell("i", i, then);
            String refused =
                    archived.get(i).encrypted() ? null : dialect.images().refused(cell, then);
            if (loss != null) {
                cases.append(" WHEN " + cell + " IS NOT NULL THEN " + number(loss));
            } else if (refused != null) {
                cases.append(" WHEN " + refused + " THEN "
                        + number("column "
                                + archived.get(i).name() + " held what is none of "
                                + archived.get(i).declared()
                                + ", which the database does not take"));
            }
        }
        return cases.isEmpty() ? "0" : "CASE" + cases + " ELSE 0 END";
    }

    private int number(String loss) {
        if (!losses.contains(loss)) {
            losses.add(loss);
        }
        return losses.indexOf(loss) + 1;
    }

    /** Why a value of this column would be lost, or null. */
    private @Nullable String loss(ArchivedColumn archived) {
        for (Column column : columns) {
            if (column.name().equals(archived.name())) {
                return column.type().takes(dialect.catalogue().reader().type(archived.declared()))
                        ? null
                        : "column " + archived.name() + " was " + archived.declared() + " and is "
                                + column.type().declared() + " now";
            }
        }
        return "they have a value in column " + archived.name() + ", which is no longer there";
    }

    /** Adds a row that comes from a copy outside the database. */
    void add(Row row, ArchivedRows line, long number, int via) {
        layout(line);
        List<@Nullable Object> values = new ArrayList<>();
        long lost = 0;
        for (Map.Entry<String, @Nullable Object> value : row.values().entrySet()) {
            boolean known = columns.stream().anyMatch(column -> column.name().equals(value.getKey()));
            if (!known && value.getValue() != null) {
                lost = number("they have a value in column " + value.getKey() + ", which is no longer there");
            }
        }
        for (Column column : columns) {
            Object given = row.values().get(column.name());
            Object read = given == null ? null : column.type().kind().read(given);
            boolean anything = column.type().kind() == ValueKind.OTHER || read == null;
            if (given != null && anything && dialect.values().keepsAnything()) {
                read = given;
            } else if (given != null && read == null) {
                lost = number("\"" + given + "\" cannot be a value of column " + column.name() + ", which is "
                        + column.type().declared() + " now");
            }
            values.add(read);
        }
        values.add(number);
        values.add(0L);
        values.add((long) line.line());
        values.add((long) via);
        values.add(lost);
        waiting.add(values);
        if (waiting.size() == ROWS_AT_ONCE) {
            flush();
        }
    }

    /** Writes what was added. */
    void flush() {
        if (waiting.isEmpty()) {
            return;
        }
        Sql insert = Sql.of("INSERT INTO " + name + " (" + names() + ") ");
        for (int i = 0; i < waiting.size(); i++) {
            insert.add(i == 0 ? "VALUES (" : ", (");
            for (int j = 0; j < waiting.get(i).size(); j++) {
                insert.add(j == 0 ? "" : ", ");
                Object value = waiting.get(i).get(j);
                ColumnType type = j < columns.size() ? columns.get(j).type() : OwnTables.NUMBER;
                if (value == null) {
                    insert.add("NULL");
                } else {
                    String[] around = dialect.images().fromCopy(type).split("\\?", -1);
                    insert.add(around[0]).bind(value, type).add(around[1]);
                }
            }
            insert.add(")");
        }
        waiting.clear();
        session.update(insert, context("reading a copy of"));
    }

    /** Takes out rows t. Returns how many. */
    long leaveOut(Sql which) {
        return session.update(
                Sql.of(dialect.syntax().deleteFrom(name) + " WHERE ").add(which), context("leaving out images of"));
    }

    /** The same, and remembers them in {@link #skipped()}. */
    void spare(Sql which) {
        if (!links) {
            StagingTable aside = skipped;
            if (aside == null) {
                aside = new StagingTable(session, tables, table, columns, false, false, false);
                skipped = aside;
            }
            session.update(
                    Sql.of("INSERT INTO " + aside.name + " (" + names() + ") SELECT " + names() + " FROM " + name
                                    + " t WHERE ")
                            .add(which),
                    context("leaving out images of"));
        }
        leaveOut(which);
    }

    /** The rows that were left out because something stands in their way, or null if none was. */
    @Nullable
    StagingTable skipped() {
        return skipped;
    }

    /** Whether it is for links and not for rows. */
    boolean links() {
        return links;
    }

    StatementContext context(String step) {
        return StatementContext.of(step, table.name());
    }
}
