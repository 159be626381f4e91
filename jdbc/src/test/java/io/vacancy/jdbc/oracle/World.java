// SPDX-License-Identifier: Apache-2.0
package io.vacancy.jdbc.oracle;

import io.vacancy.engines.Engine;
import java.util.ArrayList;
import java.util.Collections;
import java.util.HashSet;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Random;
import java.util.Set;
import java.util.TreeMap;
import java.util.stream.Collectors;
import java.util.stream.IntStream;

/**
 * A random database: tables t0, t1, … with a key, a number to put conditions on, an owner to put scopes on,
 * and references to one another, in plain collections.
 */
final class World {

    /** A reference from a column of one table to the key of another. */
    record Link(
            int child,
            String column,
            int parent,
            boolean notNull,
            String onDelete,
            boolean enforced,
            List<Choice> rules) {
        String name() {
            return byKind() ? "t" + child + "(" + column + ",owner='1')" : "t" + child + "." + column;
        }

        /** The same with other rules. */
        Link with(List<Choice> others) {
            return new Link(child, column, parent, notNull, onDelete, enforced, others);
        }

        /** Whether only rows of one owner refer by it, as by a column that names the kind of parent. */
        private boolean byKind() {
            return !enforced && (child + parent) % 2 == 0;
        }

        /** The key of the parent that a row refers to, or null. */
        Integer to(Map<String, Integer> row) {
            return byKind() && row.get("owner") != 1 ? null : row.get(column);
        }

        String written() {
            return enforced ? name() : name() + " -> t" + parent + ".id";
        }
    }

    /** A rule: an action, and the condition under which it holds, or null; with the related rows that must be there. */
    record Choice(String action, String when, Related related) {
        Choice(String action, String when) {
            this(action, when, null);
        }
    }

    /** That there are rows that a link connects with a row of a table, or that there are none. */
    record Related(int table, Link via, boolean children, boolean not, String which) {
        String text() {
            String other = "t" + (children ? via.child() : via.parent());
            String joined = children
                    ? "x." + via.column() + " = t" + table + ".id"
                    : "t" + table + "." + via.column() + " = x.id";
            return (not ? "NOT " : "") + "EXISTS (SELECT 1 FROM " + other + " x WHERE " + joined
                    + (which == null ? "" : " AND (" + which + ")") + ")";
        }

        boolean holds(World world, Map<String, Integer> row, boolean inScopeOnly) {
            int other = children ? via.child() : via.parent();
            boolean found = world.rows.get(other).values().stream()
                    .filter(each -> !inScopeOnly || each.get("owner") == 1)
                    .filter(each -> children
                            ? row.get("id").equals(via.to(each))
                            : each.get("id").equals(via.to(row)))
                    .anyMatch(each -> isTrue(which, each));
            return found != not;
        }
    }

    /** Whether a rule holds for a child row. */
    boolean holds(Choice rule, Map<String, Integer> row) {
        return rule.related() == null
                ? isTrue(rule.when(), row)
                : rule.related().holds(this, row, false);
    }

    private static boolean isTrue(String when, Map<String, Integer> row) {
        Integer n = row.get("n");
        if (when == null) {
            return true;
        }
        return switch (when) {
            case "n IS NULL" -> n == null;
            case "n < 3" -> n != null && n < 3;
            case "n = 5" -> n != null && n == 5;
            case "n > 6 OR n IS NULL" -> n == null || n > 6;
            default -> when.startsWith("id = ") && when.equals("id = " + row.get("id"));
        };
    }

    final int tables;
    final List<Link> links = new ArrayList<>();
    final List<Map<Integer, Map<String, Integer>>> rows = new ArrayList<>();
    final List<Integer> neverDeleted = new ArrayList<>();
    final int root;
    final List<Integer> selected = new ArrayList<>();
    final boolean scoped;
    boolean skipping;
    /** By which rows are selected instead of by key, or null. */
    Related selectedBy;
    /** What else is selected, by table. */
    final Map<Integer, List<Integer>> others = new TreeMap<>();
    /** Whether the selected rows stay and are blanked. */
    boolean blanking;
    /** Tables of which no two rows have the same r0 and n. */
    final List<Integer> unique = new ArrayList<>();

    World(Random random) {
        tables = 2 + random.nextInt(5);
        for (int child = 0; child < tables; child++) {
            int references = random.nextInt(4);
            for (int i = 0; i < references; i++) {
                links.add(link(random, child, "r" + i));
            }
            if (random.nextInt(12) == 0) {
                neverDeleted.add(child);
            }
        }
        for (int table = 0; table < tables; table++) {
            rows.add(rows(random, random.nextInt(4) == 0 ? 0 : 1 + random.nextInt(12)));
        }
        moreParents(random);
        links.forEach(link -> refer(random, link));
        settle();
        List<Integer> filled = IntStream.range(0, tables)
                .filter(table -> !rows.get(table).isEmpty())
                .boxed()
                .toList();
        root = filled.isEmpty() ? 0 : filled.get(random.nextInt(filled.size()));
        scoped = random.nextInt(3) == 0;
        skipping = random.nextInt(3) == 0;
        for (int i = 0; i <= random.nextInt(4); i++) {
            List<Integer> there = List.copyOf(rows.get(root).keySet());
            selected.add(
                    there.isEmpty() || random.nextInt(5) == 0
                            ? 1 + random.nextInt(13)
                            : there.get(random.nextInt(there.size())));
        }
        lookAtOthers(random);
        blankSome(random);
    }

    /** Some child rows that would lose their link, or stay as they are, are blanked besides. */
    private void blankSome(Random random) {
        links.replaceAll(link -> link.with(link.rules().stream()
                .map(rule -> (rule.action().equals("set-null") || rule.action().equals("leave")) && random.nextBoolean()
                        ? new Choice("blank", rule.when(), rule.related())
                        : rule)
                .toList()));
    }

    /** What n of a row is once it is blanked. */
    Integer blank(int table) {
        return unique.contains(table) ? null : Integer.valueOf(77);
    }

    /** Has rows of further tables selected as well. */
    void plus(Random random) {
        skipping = false;
        for (int table = 0; table < tables; table++) {
            if (table != root && random.nextInt(2) == 0) {
                List<Integer> ids = new ArrayList<>(List.of(1 + random.nextInt(13)));
                rows.get(table).keySet().stream()
                        .filter(id -> random.nextInt(3) == 0)
                        .forEach(ids::add);
                others.put(table, ids);
            }
        }
    }

    /** Has the selected rows stay and be blanked. */
    void blank() {
        blanking = true;
        skipping = false;
    }

    /** Some rules and some selections look at related rows. */
    private void lookAtOthers(Random random) {
        for (Link link : List.copyOf(links)) {
            if (random.nextInt(3) > 0 || link.rules().isEmpty()) {
                continue;
            }
            List<Choice> rules = new ArrayList<>(link.rules());
            Choice first = rules.get(0);
            Related related = related(random, link.child());
            if (related != null && first.when() != null) {
                rules.set(0, new Choice(first.action(), related.text(), related));
                links.set(links.indexOf(link), link.with(rules));
            }
        }
        Related by = random.nextInt(3) > 0 ? null : related(random, root);
        if (by != null) {
            selectedBy = by;
            selected.clear();
            rows.get(root).values().stream()
                    .filter(row -> by.holds(this, row, scoped))
                    .forEach(row -> selected.add(row.get("id")));
        }
    }

    /**
     * Says of the root's child rows what a merge of two of its rows means for them: they get the one that stays.
     *
     * @return the row that stays, or null where there are no two rows to merge
     */
    Integer merge(Random random) {
        List<Integer> ids = rows.get(root).values().stream()
                .filter(row -> !scoped || row.get("owner") == 1)
                .map(row -> row.get("id"))
                .collect(Collectors.toCollection(ArrayList::new));
        if (ids.size() < 2) {
            return null;
        }
        Collections.shuffle(ids, random);
        int into = ids.get(1);
        selectedBy = null;
        skipping = false;
        selected.clear();
        selected.add(ids.get(0));
        links.replaceAll(link -> link.parent() != root
                ? link
                : link.with(
                        link.child() == root
                                ? List.of(new Choice("block", "id = " + into), new Choice("reassign " + into, null))
                                : List.of(new Choice("reassign " + into, null))));
        return into;
    }

    private Related related(Random random, int table) {
        List<Link> own = links.stream()
                .filter(link -> link.child() == table || link.parent() == table)
                .toList();
        if (own.isEmpty()) {
            return null;
        }
        Link via = own.get(random.nextInt(own.size()));
        boolean children = via.parent() == table && (via.child() != table || random.nextBoolean());
        String which =
                random.nextInt(3) == 0 ? null : pick(random, "n IS NULL", "n < 3", "n = 5", "n > 6 OR n IS NULL");
        return new Related(table, via, children, random.nextBoolean(), which);
    }

    private Link link(Random random, int child, String column) {
        int parent = random.nextInt(tables);
        // Only a reference to an earlier table is NOT NULL, so that rows can be put in one after the other.
        boolean notNull = parent < child && random.nextBoolean();
        boolean enforced = random.nextInt(6) > 0;
        String onDelete = enforced
                ? pick(random, "NO ACTION", "CASCADE", "CASCADE", notNull ? "CASCADE" : "SET NULL")
                : "NO ACTION";
        List<Choice> rules = new ArrayList<>();
        String last = action(random, notNull, enforced);
        if (random.nextInt(3) > 0) {
            if (random.nextBoolean()) {
                String action = action(random, notNull, enforced);
                // Block must say what NULL means, or the rule book is refused.
                String when = action.equals("block")
                        ? pick(random, "n IS NULL", "n > 6 OR n IS NULL")
                        : pick(random, "n IS NULL", "n < 3", "n = 5", "n > 6 OR n IS NULL");
                rules.add(new Choice(action, when));
            }
            if (rules.isEmpty() || random.nextBoolean()) {
                rules.add(new Choice(last, null));
            }
        } else if (!enforced) {
            rules.add(new Choice(last, null));
        }
        return new Link(child, column, parent, notNull, onDelete, enforced, rules);
    }

    private static String action(Random random, boolean notNull, boolean enforced) {
        return random.nextInt(5) == 0
                ? "reassign " + (1 + random.nextInt(13))
                : pick(random, "cascade", "cascade", notNull ? "cascade" : "set-null", enforced ? "block" : "leave");
    }

    /** Some rules give child rows to the parent's own parent; and some tables get a unique key. */
    private void moreParents(Random random) {
        for (int i = 0; i < links.size(); i++) {
            Link link = links.get(i);
            List<Link> own = links.stream()
                    .filter(other -> other.child() == link.parent() && other.parent() == link.parent())
                    .toList();
            if (!own.isEmpty() && random.nextInt(3) == 0) {
                String up = "to-parents " + own.get(random.nextInt(own.size())).column();
                links.set(i, link.with(List.of(new Choice(up, null))));
            }
        }
        for (int table = 0; table < tables; table++) {
            int child = table;
            if (links.stream()
                            .anyMatch(link ->
                                    link.child() == child && link.column().equals("r0"))
                    && random.nextInt(4) == 0) {
                unique.add(table);
            }
        }
    }

    private static String pick(Random random, String... from) {
        return from[random.nextInt(from.length)];
    }

    private static Map<Integer, Map<String, Integer>> rows(Random random, int count) {
        Map<Integer, Map<String, Integer>> rows = new LinkedHashMap<>();
        for (int id = 1; id <= count; id++) {
            Map<String, Integer> row = new LinkedHashMap<>();
            row.put("id", id);
            row.put("n", random.nextInt(4) == 0 ? null : random.nextInt(10));
            row.put("owner", random.nextInt(8) == 0 ? 2 : 1);
            rows.put(id, row);
        }
        return rows;
    }

    private void refer(Random random, Link link) {
        List<Integer> parents = new ArrayList<>(rows.get(link.parent()).keySet());
        if (parents.isEmpty() && link.notNull()) {
            rows.get(link.child()).clear();
        }
        rows.get(link.child())
                .values()
                .forEach(row -> row.put(
                        link.column(),
                        parents.isEmpty() || (!link.notNull() && random.nextInt(4) == 0)
                                ? null
                                : parents.get(random.nextInt(parents.size()))));
        // A row that had to go may have been referred to already.
        links.stream().filter(other -> other.parent() == link.child()).forEach(other -> rows.get(other.child())
                .values()
                .removeIf(row -> row.get(other.column()) != null
                        && !rows.get(link.child()).containsKey(row.get(other.column()))));
    }

    /** Takes out rows whose references lead nowhere, until none does. */
    private void settle() {
        boolean again = true;
        while (again) {
            again = false;
            for (int table : unique) {
                Set<List<Integer>> seen = new HashSet<>();
                again |= rows.get(table).values().removeIf(row -> !Oracle.mayStand(row, seen));
            }
            for (Link link : links) {
                again |= rows.get(link.child())
                        .values()
                        .removeIf(row -> row.get(link.column()) != null
                                && !rows.get(link.parent()).containsKey(row.get(link.column())));
            }
        }
    }

    /** The statements that make this world. */
    List<String> script(Engine engine) {
        List<String> script = new ArrayList<>();
        List<String> later = new ArrayList<>();
        for (int table = 0; table < tables; table++) {
            StringBuilder create = new StringBuilder(
                    "CREATE TABLE t" + table + " (id INTEGER NOT NULL PRIMARY KEY, n INTEGER, owner INTEGER NOT NULL");
            StringBuilder keys = new StringBuilder();
            for (Link link : links) {
                if (link.child() == table) {
                    create.append(", " + link.column() + " INTEGER" + (link.notNull() ? " NOT NULL" : ""));
                    String key = "FOREIGN KEY (" + link.column() + ") REFERENCES t" + link.parent() + " (id) ON DELETE "
                            + link.onDelete();
                    if (link.enforced() && engine == Engine.SQLITE) {
                        keys.append(", ").append(key);
                    } else if (link.enforced()) {
                        later.add("ALTER TABLE t" + table + " ADD " + key);
                    }
                }
            }
            if (unique.contains(table)) {
                create.append(", UNIQUE (r0, n)");
            }
            script.add(create.append(keys).append(")").toString());
        }
        // Rows come without those references that may be NULL, which follow when all rows are there.
        for (int table = 0; table < tables; table++) {
            for (Map<String, Integer> row : rows.get(table).values()) {
                script.add(insert(table, row));
            }
        }
        script.addAll(later);
        for (Link link : links) {
            if (!link.notNull()) {
                rows.get(link.child()).values().stream()
                        .filter(row -> row.get(link.column()) != null)
                        .forEach(row -> script.add("UPDATE t" + link.child() + " SET " + link.column() + " = "
                                + row.get(link.column()) + " WHERE id = " + row.get("id")));
            }
        }
        return script;
    }

    private String insert(int table, Map<String, Integer> row) {
        List<String> columns = new ArrayList<>(List.of("id", "n", "owner"));
        links.stream()
                .filter(link -> link.child() == table && link.notNull())
                .forEach(link -> columns.add(link.column()));
        List<String> values =
                columns.stream().map(column -> String.valueOf(row.get(column))).toList();
        return "INSERT INTO t" + table + " (" + String.join(", ", columns) + ") VALUES (" + String.join(", ", values)
                + ")";
    }

    /** The rule book as YAML. */
    String ruleBook() {
        StringBuilder yaml = new StringBuilder("version: 1\ntables:\n");
        for (int table = 0; table < tables; table++) {
            yaml.append("  t" + table + ": {never-deleted: " + neverDeleted.contains(table) + ", blank: {n: "
                    + blank(table) + "}}\n");
        }
        yaml.append("relations:\n");
        for (Link link : links) {
            if (!link.rules().isEmpty()) {
                yaml.append("  \"" + link.written() + "\":\n");
                for (Choice rule : link.rules()) {
                    yaml.append("    - {" + written(rule.action())
                            + (rule.when() == null ? "" : ", when: \"" + rule.when() + "\"") + "}\n");
                }
            }
        }
        return yaml.toString();
    }

    private static String written(String action) {
        String[] words = action.split(" ");
        return switch (words[0]) {
            case "block" -> "block: held";
            case "reassign" -> "reassign: " + words[1];
            case "to-parents" -> "reassign: {to-parents: " + words[1] + "}";
            default -> action + ": []";
        };
    }
}
