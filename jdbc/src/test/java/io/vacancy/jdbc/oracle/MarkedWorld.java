// SPDX-License-Identifier: Apache-2.0
package io.vacancy.jdbc.oracle;

import io.vacancy.rules.Marker;
import io.vacancy.rules.Rule;
import io.vacancy.rules.RuleBook;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.List;
import java.util.Map;
import java.util.Random;
import java.util.Set;
import java.util.TreeMap;
import java.util.TreeSet;
import org.jspecify.annotations.Nullable;

/** Random tables, some of which can be soft-deleted, with what a row by row reading of the rules expects of them. */
final class MarkedWorld {

    enum Kind {
        NONE,
        FLAG,
        DATE,
        END,
        STATUS
    }

    /** @param soft what becomes of child rows when the parent is marked, @param hard when it is erased */
    record Link(int child, int parent, String soft, String hard) {
        String column() {
            return "r" + parent;
        }

        String name() {
            return "m" + child + "." + column();
        }
    }

    record Cell(Map<Integer, Integer> parents, boolean marked) {}

    final List<Kind> kinds = new ArrayList<>();
    final List<Link> links = new ArrayList<>();
    final List<Map<Integer, Cell>> rows = new ArrayList<>();
    final List<Integer> selected = new ArrayList<>();
    /** What else is selected, by table. */
    final Map<Integer, List<Integer>> others = new TreeMap<>();

    final Set<String> going = new TreeSet<>();
    final Set<String> erased = new TreeSet<>();
    final Set<String> blocking = new TreeSet<>();

    MarkedWorld(Random random) {
        int tables = 3 + random.nextInt(3);
        for (int table = 0; table < tables; table++) {
            kinds.add(table == 0 ? Kind.values()[1 + random.nextInt(4)] : Kind.values()[random.nextInt(5)]);
            for (int parent = 0; parent <= table; parent++) {
                boolean tree = parent == table && random.nextInt(4) == 0;
                boolean link = parent < table && random.nextInt(10) < (parent == table - 1 ? 8 : 4);
                if (tree || link) {
                    links.add(link(table, parent, random));
                }
            }
            rows.add(rows(table, random));
        }
        for (int id = 1; id <= rows.get(0).size(); id++) {
            if (random.nextInt(3) == 0) {
                selected.add(id);
            }
        }
        if (selected.isEmpty()) {
            selected.add(1);
        }
        for (int table = 1; table < tables; table++) {
            if (kinds.get(table) != Kind.NONE && random.nextInt(4) == 0) {
                int most = rows.get(table).size();
                others.put(table, List.of(1 + random.nextInt(most), 1 + random.nextInt(most)));
            }
        }
        expect();
    }

    /** Marked tables are only ever marked, and others only ever erased, so that no table is both. */
    private Link link(int child, int parent, Random random) {
        boolean marked = kinds.get(child) != Kind.NONE;
        List<String> soft = marked
                ? List.of("cascade", "cascade", "cascade", "leave", "block")
                : List.of("erase", "erase", "leave", "block");
        boolean erases = kinds.get(child) == Kind.NONE && (child == parent || random.nextInt(5) > 0);
        return new Link(child, parent, soft.get(random.nextInt(soft.size())), erases ? "cascade" : "block");
    }

    private Map<Integer, Cell> rows(int table, Random random) {
        Map<Integer, Cell> made = new TreeMap<>();
        for (int id = 1; id <= 3 + random.nextInt(6); id++) {
            Map<Integer, Integer> parents = new TreeMap<>();
            for (Link link : links) {
                int upTo = link.parent() == table
                        ? id - 1
                        : link.parent() < rows.size() ? rows.get(link.parent()).size() : 0;
                if (link.child() == table && upTo > 0 && random.nextInt(5) > 0) {
                    parents.put(link.parent(), 1 + random.nextInt(upTo));
                }
            }
            made.put(id, new Cell(parents, kinds.get(table) != Kind.NONE && random.nextInt(6) == 0));
        }
        return made;
    }

    private void expect() {
        selected.stream().filter(id -> !rows.get(0).get(id).marked()).forEach(id -> going.add("m0 " + id));
        others.forEach((table, ids) -> ids.stream()
                .filter(id -> !rows.get(table).get(id).marked())
                .forEach(id -> going.add("m" + table + " " + id)));
        boolean grown = true;
        while (grown) {
            grown = false;
            for (Link link : links) {
                for (Map.Entry<Integer, Cell> row : rows.get(link.child()).entrySet()) {
                    String child = "m" + link.child() + " " + row.getKey();
                    String action = action(link, row.getValue());
                    if (action.equals("cascade") || action.equals("erase")) {
                        boolean erases = action.equals("erase") || kinds.get(link.child()) == Kind.NONE;
                        grown |= erases ? erased.add(child) : going.add(child);
                    }
                }
            }
        }
        for (Link link : links) {
            rows.get(link.child()).forEach((id, row) -> {
                String child = "m" + link.child() + " " + id;
                // A row that is only marked still refers to the parent that is to be erased.
                boolean erases = erased.contains(
                        "m" + link.parent() + " " + row.parents().get(link.parent()));
                boolean stays = !erased.contains(child) && (erases || !going.contains(child));
                if (action(link, row).equals("block") && stays) {
                    blocking.add(link.name() + " " + id);
                }
            });
        }
    }

    /** What a relation does to a child row as things stand. */
    private String action(Link link, Cell row) {
        Integer parent = row.parents().get(link.parent());
        if (parent == null) {
            return "nothing";
        }
        String of = "m" + link.parent() + " " + parent;
        return erased.contains(of) ? link.hard() : going.contains(of) && !row.marked() ? link.soft() : "nothing";
    }

    /** Rows that came back would hang on rows that are still marked. */
    Set<String> hangingOnMarked() {
        Set<String> hanging = new TreeSet<>();
        for (Link link : links) {
            rows.get(link.child()).forEach((id, row) -> {
                Integer parent = row.parents().get(link.parent());
                boolean comesBack = going.contains("m" + link.child() + " " + id);
                if (comesBack
                        && parent != null
                        && rows.get(link.parent()).get(parent).marked()) {
                    hanging.add(link.name() + " " + id);
                }
            });
        }
        return hanging;
    }

    List<String> script() {
        List<String> script = new ArrayList<>();
        for (int table = 0; table < kinds.size(); table++) {
            StringBuilder create = new StringBuilder("CREATE TABLE m" + table + " (id INTEGER NOT NULL PRIMARY KEY");
            StringBuilder keys = new StringBuilder();
            for (Link link : links) {
                if (link.child() == table) {
                    create.append(", ").append(link.column()).append(" INTEGER");
                    keys.append(", FOREIGN KEY (")
                            .append(link.column())
                            .append(") REFERENCES m")
                            .append(link.parent())
                            .append(" (id)");
                }
            }
            create.append(
                    switch (kinds.get(table)) {
                        case NONE -> "";
                        case FLAG -> ", mark CHAR(1) DEFAULT 'Y' NOT NULL";
                        case DATE -> ", mark DATE";
                        case END -> ", mark DATE DEFAULT '9999-12-31' NOT NULL";
                        case STATUS -> ", mark VARCHAR(9) DEFAULT 'moored' NOT NULL, was VARCHAR(9)";
                    });
            script.add(create + (kinds.get(table) == Kind.NONE ? "" : ", receipt VARCHAR(40)") + keys + ")");
            int of = table;
            rows.get(table).forEach((id, row) -> script.add(insert(of, id, row)));
        }
        return script;
    }

    private String insert(int table, int id, Cell row) {
        List<String> columns = new ArrayList<>(List.of("id"));
        List<String> values = new ArrayList<>(List.of(String.valueOf(id)));
        row.parents().forEach((parent, to) -> {
            columns.add("r" + parent);
            values.add(String.valueOf(to));
        });
        String mark =
                switch (kinds.get(table)) {
                    case NONE -> null;
                    case FLAG -> row.marked() ? "'N'" : "'Y'";
                    case DATE -> row.marked() ? "'2025-05-01'" : "NULL";
                    case END -> row.marked() ? "'2025-05-01'" : "'9999-12-31'";
                    case STATUS -> row.marked() ? "'gone'" : id % 2 == 0 ? "'away'" : "'moored'";
                };
        if (mark != null) {
            columns.add("mark");
            values.add(mark);
        }
        return "INSERT INTO m" + table + " (" + String.join(", ", columns) + ") VALUES (" + String.join(", ", values)
                + ")";
    }

    RuleBook rules() {
        return RuleBook.build(book -> {
            for (int table = 0; table < kinds.size(); table++) {
                Marker marker = marker(kinds.get(table));
                if (marker != null) {
                    book.table("m" + table, t -> t.marker(marker.receipt("receipt")));
                }
            }
            for (Link link : links) {
                book.relation(link.name(), rule(link.hard()));
                if (kinds.get(link.parent()) != Kind.NONE) {
                    book.whenSoftDeleted(link.name(), rule(link.soft()));
                }
            }
        });
    }

    private static @Nullable Marker marker(Kind kind) {
        return switch (kind) {
            case NONE -> null;
            case FLAG -> Marker.flag("mark", "Y", "N");
            case DATE -> Marker.date("mark");
            case END -> Marker.endDate("mark", "9999-12-31");
            case STATUS -> Marker.status("mark", "gone", "moored", "away").was("was");
        };
    }

    private static Rule rule(String action) {
        return switch (action) {
            case "cascade" -> Rule.cascade();
            case "erase" -> Rule.erase();
            case "leave" -> Rule.leave();
            default -> Rule.block("it stands there");
        };
    }

    @Override
    public String toString() {
        return String.join(";\n", script()) + ";\n" + links + "\nselected " + selected + " and of others " + others
                + "\nmarked " + going + "\nerased " + erased + "\nblocking " + blocking + "\n"
                + Arrays.toString(kinds.toArray());
    }
}
