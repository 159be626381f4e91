// SPDX-License-Identifier: Apache-2.0
package io.vacancy.jdbc.oracle;

import static io.vacancy.condition.ColumnRef.column;
import static org.assertj.core.api.Assertions.assertThat;

import io.vacancy.Vacancy;
import io.vacancy.engines.Database;
import io.vacancy.engines.Engine;
import io.vacancy.jdbc.JdbcStore;
import io.vacancy.outcome.Outcome;
import io.vacancy.preview.Preview;
import io.vacancy.request.Request;
import io.vacancy.rules.Rule;
import io.vacancy.rules.RuleBook;
import io.vacancy.schema.Row;
import java.util.ArrayList;
import java.util.HashSet;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Random;
import java.util.Set;
import java.util.TreeSet;
import java.util.stream.Collectors;
import java.util.stream.Stream;
import org.junit.jupiter.api.parallel.Execution;
import org.junit.jupiter.api.parallel.ExecutionMode;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.MethodSource;

/**
 * Keys of one and of two columns, and of texts that are the same in other letters; tables that refer to themselves in
 * several ways; every declared action: what goes is what an oracle says that goes through the rows one by one, and it
 * comes back as it was. {@code -Dvacancy.cases} says how many deletions, {@code -Dvacancy.seed} which world alone.
 */
@Execution(ExecutionMode.CONCURRENT)
class KeyShapesTest {

    private static final int CASES = Integer.getInteger("vacancy.cases", 120);
    private static final int DELETIONS = 5;
    private static final int ROWS = 9;

    private enum Shape {
        NUMBER,
        PAIR,
        TEXT
    }

    /** @param action what is declared, and @param rule what the rule book says, or empty */
    private record Link(int child, String column, int parent, String action, String rule) {

        boolean cascades() {
            return rule.equals("cascade") || (rule.isEmpty() && action.equals("CASCADE"));
        }

        boolean unlinks() {
            return rule.equals("set-null") || (rule.isEmpty() && action.equals("SET NULL"));
        }

        boolean blocks() {
            return !cascades() && !unlinks();
        }
    }

    private record Place(int table, int no) {}

    /** A random database, in its own collections. */
    private static final class Shapes {

        private final Engine engine;
        private final Random random;
        private final List<Shape> shapes = new ArrayList<>();
        private final List<String> textTypes = new ArrayList<>();
        private final List<Link> links = new ArrayList<>();
        /** To which number of its parent a row refers: by link, by number less 1; 0 for none. */
        private final List<int[]> refers = new ArrayList<>();

        Shapes(Engine engine, Random random) {
            this.engine = engine;
            this.random = random;
            int tables = 1 + random.nextInt(3);
            for (int table = 0; table < tables; table++) {
                shapes.add(Shape.values()[random.nextInt(3)]);
                textTypes.add(textType());
            }
            for (int child = 0; child < tables; child++) {
                int count = 1 + random.nextInt(3);
                for (int i = 0; i < count; i++) {
                    int parent = random.nextInt(3) == 0 ? child : random.nextInt(tables);
                    List<String> actions = new ArrayList<>(List.of("NO ACTION", "CASCADE", "CASCADE", "SET NULL"));
                    if (engine != Engine.MARIADB) {
                        actions.add("SET DEFAULT");
                    }
                    links.add(new Link(
                            child,
                            "r" + i,
                            parent,
                            actions.get(random.nextInt(actions.size())),
                            List.of("", "", "cascade", "cascade", "set-null").get(random.nextInt(5))));
                    int[] to = new int[ROWS];
                    for (int no = 0; no < ROWS; no++) {
                        to[no] = random.nextInt(3) == 0 ? 0 : 1 + random.nextInt(ROWS);
                    }
                    refers.add(to);
                }
            }
        }

        private String textType() {
            return switch (engine) {
                case SQLITE ->
                    List.of("TEXT", "TEXT COLLATE NOCASE", "TEXT COLLATE RTRIM").get(random.nextInt(3));
                case H2 -> List.of("VARCHAR(9)", "VARCHAR_IGNORECASE(9)").get(random.nextInt(2));
                case POSTGRESQL ->
                    List.of("VARCHAR(9)", "VARCHAR(9) COLLATE anycase").get(random.nextInt(2));
                default ->
                    List.of("VARCHAR(9) COLLATE utf8mb4_bin", "VARCHAR(9)").get(random.nextInt(2));
            };
        }

        /** A text that refers to the same row. */
        private String alike(int table, String text) {
            String type = textTypes.get(table);
            boolean anyCase = type.contains("NOCASE")
                    || type.contains("IGNORECASE")
                    || type.contains("anycase")
                    || (engine == Engine.MARIADB && !type.contains("bin"));
            if (anyCase && random.nextBoolean()) {
                return text.toUpperCase(java.util.Locale.ROOT);
            }
            return type.contains("RTRIM") && random.nextBoolean() ? text + "  " : text;
        }

        private List<String> keyColumns(int table) {
            return shapes.get(table) == Shape.PAIR ? List.of("id", "k") : List.of("id");
        }

        private String key(int table, int no, boolean own) {
            String text = "key" + (char) ('a' + no);
            return switch (shapes.get(table)) {
                case NUMBER -> Integer.toString(no);
                case PAIR -> no + ", 'k" + no % 2 + "'";
                case TEXT -> "'" + (own ? text : alike(table, text)) + "'";
            };
        }

        private String type(int parent, boolean first, boolean own) {
            return switch (shapes.get(parent)) {
                case NUMBER -> "INTEGER";
                case PAIR -> first ? "INTEGER" : "VARCHAR(3)";
                // SQLite compares as the parent's column does; the others want columns of the same type.
                case TEXT -> engine == Engine.SQLITE && !own ? "TEXT" : textTypes.get(parent);
            };
        }

        private List<String> columns(Link link) {
            return shapes.get(link.parent()) == Shape.PAIR
                    ? List.of(link.column(), link.column() + "_k")
                    : List.of(link.column());
        }

        String relation(Link link) {
            return columns(link).size() == 1
                    ? "t" + link.child() + "." + link.column()
                    : "t" + link.child() + "(" + String.join(",", columns(link)) + ")";
        }

        List<String> script() {
            List<String> script = new ArrayList<>();
            List<String> later = new ArrayList<>();
            List<String> inserts = new ArrayList<>();
            List<String> updates = new ArrayList<>();
            if (engine == Engine.POSTGRESQL) {
                script.add(
                        "CREATE COLLATION anycase (provider = icu, locale = 'und-u-ks-level2', deterministic = false)");
            }
            for (int table = 0; table < shapes.size(); table++) {
                StringBuilder create = new StringBuilder("CREATE TABLE t" + table + " (no INTEGER NOT NULL UNIQUE");
                for (String column : keyColumns(table)) {
                    create.append(", " + column + " " + type(table, column.equals("id"), true) + " NOT NULL");
                }
                for (Link link : links) {
                    if (link.child() == table) {
                        String[] defaults = key(link.parent(), 1, true).split(", ");
                        int i = 0;
                        for (String column : columns(link)) {
                            create.append(", " + column + " " + type(link.parent(), i == 0, false));
                            create.append(link.action().equals("SET DEFAULT") ? " DEFAULT " + defaults[i] : "");
                            i++;
                        }
                    }
                }
                create.append(", PRIMARY KEY (" + String.join(", ", keyColumns(table)) + ")");
                for (Link link : links) {
                    String foreign =
                            "FOREIGN KEY (" + String.join(", ", columns(link)) + ") REFERENCES t" + link.parent() + " ("
                                    + String.join(", ", keyColumns(link.parent())) + ") ON DELETE " + link.action();
                    if (link.child() == table && engine == Engine.SQLITE) {
                        create.append(", ").append(foreign);
                    } else if (link.child() == table) {
                        later.add("ALTER TABLE t" + table + " ADD " + foreign);
                    }
                }
                script.add(create.append(")").toString());
                for (int no = 1; no <= ROWS; no++) {
                    List<String> nulls = new ArrayList<>();
                    List<String> columns = new ArrayList<>(List.of("no"));
                    columns.addAll(keyColumns(table));
                    for (int i = 0; i < links.size(); i++) {
                        Link link = links.get(i);
                        if (link.child() == table) {
                            columns.addAll(columns(link));
                            nulls.addAll(
                                    columns(link).stream().map(each -> "NULL").toList());
                            String to = refers.get(i)[no - 1] == 0
                                    ? null
                                    : key(
                                            link.parent(),
                                            refers.get(i)[no - 1],
                                            itself(link, refers.get(i)[no - 1], no));
                            for (int part = 0;
                                    to != null && part < columns(link).size();
                                    part++) {
                                links(table, no, columns(link).get(part), to.split(", ")[part], updates);
                            }
                        }
                    }
                    inserts.add("INSERT INTO t" + table + " (" + String.join(", ", columns) + ") VALUES (" + no + ", "
                            + key(table, no, true)
                            + nulls.stream().map(each -> ", " + each).collect(Collectors.joining()) + ")");
                }
            }
            script.addAll(inserts);
            script.addAll(updates);
            script.addAll(later);
            return script;
        }

        /** A row of SQLite refers to itself only in the same letters. */
        private static boolean itself(Link link, int to, int no) {
            return link.child() == link.parent() && to == no;
        }

        private static void links(int table, int no, String column, String value, List<String> updates) {
            updates.add("UPDATE t" + table + " SET " + column + " = " + value + " WHERE no = " + no);
        }

        RuleBook rules() {
            return RuleBook.build(book -> links.forEach(link -> {
                if (link.rule().equals("cascade")) {
                    book.relation(relation(link), Rule.cascade());
                } else if (link.rule().equals("set-null")) {
                    book.relation(relation(link), Rule.setNull(columns(link).toArray(String[]::new)));
                }
            }));
        }

        /** What goes with some rows of the first table. */
        Set<Place> doomed(Set<Integer> selected) {
            Set<Place> doomed = new LinkedHashSet<>();
            selected.forEach(no -> doomed.add(new Place(0, no)));
            int before = 0;
            while (before < doomed.size()) {
                before = doomed.size();
                for (int i = 0; i < links.size(); i++) {
                    if (links.get(i).cascades()) {
                        children(i, doomed, doomed);
                    }
                }
            }
            return doomed;
        }

        private void children(int link, Set<Place> parents, Set<Place> into) {
            Link of = links.get(link);
            Set<Place> found = new HashSet<>();
            for (int no = 1; no <= ROWS; no++) {
                if (parents.contains(new Place(of.parent(), refers.get(link)[no - 1]))) {
                    found.add(new Place(of.child(), no));
                }
            }
            into.addAll(found);
        }

        boolean blocked(Set<Place> doomed) {
            for (int i = 0; i < links.size(); i++) {
                Set<Place> referring = new HashSet<>();
                children(i, doomed, referring);
                referring.removeAll(doomed);
                if (links.get(i).blocks() && !referring.isEmpty()) {
                    return true;
                }
            }
            return false;
        }

        /** Which row has which links, after so many are gone. */
        Set<String> after(Set<Place> doomed) {
            Set<String> after = new TreeSet<>();
            for (int table = 0; table < shapes.size(); table++) {
                for (int no = 1; no <= ROWS; no++) {
                    if (!doomed.contains(new Place(table, no))) {
                        StringBuilder row = new StringBuilder("t" + table + " " + no);
                        for (int i = 0; i < links.size(); i++) {
                            Link link = links.get(i);
                            if (link.child() == table) {
                                int to = refers.get(i)[no - 1];
                                boolean linked = to > 0 && !doomed.contains(new Place(link.parent(), to));
                                row.append(" " + link.column() + (linked ? " set" : " null"));
                            }
                        }
                        after.add(row.toString());
                    }
                }
            }
            return after;
        }
    }

    @ParameterizedTest(name = "{0}")
    @MethodSource("io.vacancy.engines.Engine#all")
    void whatGoesIsWhatTheOracleSaysAndComesBack(Engine engine) {
        Long only = Long.getLong("vacancy.seed");
        int done = 0;
        int blocked = 0;
        for (long seed = 1; seed <= (only == null ? CASES / DELETIONS : 1); seed++) {
            Random random = new Random(only == null ? seed : only);
            Shapes shapes = new Shapes(engine, random);
            Database database = engine.fresh();
            List<String> script = shapes.script();
            database.run(script.toArray(String[]::new));
            String what = "seed " + (only == null ? seed : only) + " on " + engine + "\n" + String.join(";\n", script)
                    + "\n" + shapes.links;
            Vacancy vacancy = Vacancy.on(
                            JdbcStore.of(database.source()).withKeysInMemory(random.nextBoolean() ? 500 : 2))
                    .rules(shapes.rules())
                    .actor(() -> "Mira Holm")
                    .open();
            vacancy.archive().setUp();
            Set<String> before = contents(vacancy, shapes, true);
            for (int i = 0; i < DELETIONS; i++) {
                Set<Integer> selected = new TreeSet<>();
                for (int j = 0; j <= random.nextInt(3); j++) {
                    selected.add(1 + random.nextInt(ROWS));
                }
                Set<Place> doomed = shapes.doomed(selected);
                boolean stopped = shapes.blocked(doomed);
                Request request = Request.erase("t0").where(column("no").in(List.copyOf(selected)));
                Outcome ending;
                if (random.nextBoolean()) {
                    Preview preview = vacancy.preview(request);
                    ending = vacancy.execute(preview, preview.question().answer("yes"));
                } else {
                    ending = vacancy.execute(request.withoutConfirmation("test"));
                }
                assertThat(ending)
                        .as("%s of %s", selected, what)
                        .isInstanceOf(stopped ? Outcome.Blocked.class : Outcome.Done.class);
                if (stopped) {
                    blocked++;
                    continue;
                }
                done++;
                assertThat(contents(vacancy, shapes, false))
                        .as("without %s of %s", selected, what)
                        .isEqualTo(shapes.after(doomed));
                Preview back =
                        vacancy.preview(Request.restore(ending.receiptOrThrow().id()));
                assertThat(back.state())
                        .as("back: %s of %s: %s", selected, what, back)
                        .isEqualTo(Preview.State.READY);
                vacancy.execute(back, back.question().answer(back.question().awaited()))
                        .receiptOrThrow();
                assertThat(contents(vacancy, shapes, true))
                        .as("back: %s of %s", selected, what)
                        .isEqualTo(before);
            }
            database.drop();
        }
        if (only == null) {
            assertThat(done).isGreaterThan(CASES / 5);
            assertThat(blocked).isGreaterThan(CASES / 20);
        }
    }

    private static Set<String> contents(Vacancy vacancy, Shapes shapes, boolean exactly) {
        Set<String> contents = new TreeSet<>();
        for (int table = 0; table < shapes.shapes.size(); table++) {
            int of = table;
            try (Stream<Row> rows = vacancy.rows(Request.erase("t" + table).everyRow())) {
                rows.forEach(row -> {
                    StringBuilder text = new StringBuilder("t" + of + " ");
                    if (exactly) {
                        text.append(row.values());
                    } else {
                        text.append(row.get("no"));
                        shapes.links.stream().filter(link -> link.child() == of).forEach(link -> text.append(
                                        " " + link.column())
                                .append(row.get(link.column()) == null ? " null" : " set"));
                    }
                    contents.add(text.toString());
                });
            }
        }
        return contents;
    }
}
