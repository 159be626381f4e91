// SPDX-License-Identifier: Apache-2.0
package io.vacancy.jdbc.oracle;

import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Random;
import java.util.Set;
import java.util.TreeMap;
import java.util.TreeSet;

/**
 * A random database whose rows of t0 are persons, with a policy for most tables, in plain collections; and what forgetting one
 * person should do, row by row and without any cleverness.
 */
final class PersonWorld {

    /** A reference, with its rules in the order in which they are tried, written as in a rule book. */
    private record Link(
            int child,
            String column,
            int parent,
            boolean notNull,
            boolean enforced,
            List<String> rules,
            boolean forget) {
        String name() {
            return "t" + child + "." + column;
        }
    }

    private final Random random;
    private final int tables;
    private final List<Link> links = new ArrayList<>();
    /** By table, in the order in which they are tried; empty where nothing is said. */
    private final List<List<String>> policies = new ArrayList<>();

    final List<Map<Integer, Map<String, Integer>>> rows = new ArrayList<>();

    private final List<Set<Integer>> erased = new ArrayList<>();
    private final List<Set<Integer>> blanked = new ArrayList<>();
    final Map<String, Long> kept = new TreeMap<>();
    final Map<String, Set<Integer>> blockers = new TreeMap<>();
    private final List<Link> nulledBy = new ArrayList<>();
    private final List<Integer> nulled = new ArrayList<>();

    PersonWorld(long seed) {
        random = new Random(seed);
        tables = 2 + random.nextInt(5);
        for (int table = 0; table < tables; table++) {
            policies.add(policy(table));
            Map<Integer, Map<String, Integer>> all = new LinkedHashMap<>();
            for (int id = 1; id <= 2 + random.nextInt(9); id++) {
                Map<String, Integer> row = new LinkedHashMap<>();
                row.put("id", id);
                row.put("n", random.nextInt(4) == 0 ? null : random.nextInt(10));
                all.put(id, row);
            }
            rows.add(all);
        }
        for (int table = 0; table < tables; table++) {
            for (int i = 0; i <= random.nextInt(3); i++) {
                links.add(link(table, "r" + i));
            }
        }
        links.forEach(link -> rows.get(link.child()).values().forEach(row -> row.put(link.column(), to(link))));
    }

    private String pick(String... from) {
        return from[random.nextInt(from.length)];
    }

    private List<String> policy(int table) {
        if (table == 0) {
            return List.of(pick("erase", "blank", "blank"));
        }
        if (random.nextInt(8) == 0) {
            return List.of();
        }
        List<String> policy = new ArrayList<>();
        if (random.nextInt(3) == 0) {
            policy.add(pick("block n > 7 OR n IS NULL", "keep n < 3 OR n IS NULL", "keep n IS NULL"));
        }
        policy.add(pick("erase", "erase", "erase", "blank", "blank", "keep"));
        return policy;
    }

    private Link link(int child, String column) {
        int parent = random.nextInt(Math.max(1, child + (random.nextInt(4) == 0 ? 1 : 0)));
        boolean notNull = parent < child && random.nextInt(3) == 0;
        boolean enforced = random.nextInt(5) > 0;
        String change = enforced ? "set-null" : "leave";
        boolean forget = random.nextInt(6) == 0;
        List<String> rules = new ArrayList<>();
        if (random.nextInt(5) == 0) {
            rules.add(pick("block n > 7 OR n IS NULL", "cascade n < 3"));
        }
        rules.add(pick("cascade", "block", notNull && enforced ? "block" : change));
        return new Link(child, column, parent, notNull, enforced, rules, forget);
    }

    private Integer to(Link link) {
        List<Integer> there = List.copyOf(rows.get(link.parent()).keySet());
        return !link.notNull() && random.nextInt(4) == 0 ? null : there.get(random.nextInt(there.size()));
    }

    private static boolean holds(String written, Map<String, Integer> row) {
        Integer n = row.get("n");
        return switch (written.contains(" ") ? written.substring(written.indexOf(' ') + 1) : "") {
            case "n < 3 OR n IS NULL" -> n == null || n < 3;
            case "n > 7 OR n IS NULL" -> n == null || n > 7;
            case "n < 3" -> n != null && n < 3;
            case "n IS NULL" -> n == null;
            default -> true;
        };
    }

    private static String word(List<String> rules, Map<String, Integer> row) {
        for (String rule : rules) {
            if (holds(rule, row)) {
                return rule.contains(" ") && rule.startsWith("block") ? "block if" : rule.split(" ")[0];
            }
        }
        throw new IllegalStateException("the last rule is for every row");
    }

    private boolean erases(int table) {
        List<String> policy = policies.get(table);
        return policy.get(policy.size() - 1).equals("erase");
    }

    /** What becomes of a child row of a parent that is forgotten. */
    private String fate(Link link, Map<String, Integer> row) {
        boolean parentErased = erases(link.parent());
        String rule = word(link.rules(), row);
        if (rule.equals("set-null") || rule.equals("leave")) {
            return parentErased ? rule : "leave";
        }
        if (rule.equals("block if")) {
            return "block";
        }
        if (link.child() == 0) {
            return parentErased ? "block" : "leave";
        }
        if (policies.get(link.child()).isEmpty()) {
            return "block";
        }
        String own = word(policies.get(link.child()), row);
        boolean stuck = parentErased && link.enforced() && link.notNull();
        return own.equals("block if") || (!own.equals("erase") && stuck) ? "block" : own;
    }

    /** Works out what forgetting a person does. */
    void forget(int person) {
        for (int table = 0; table < tables; table++) {
            erased.add(new TreeSet<>());
            blanked.add(new TreeSet<>());
        }
        (erases(0) ? erased : blanked).get(0).add(person);
        boolean grown = true;
        while (grown) {
            grown = false;
            for (Link link : links) {
                for (Map<String, Integer> row : children(link)) {
                    String fate = fate(link, row);
                    if (fate.equals("erase")) {
                        grown |= erased.get(link.child()).add(row.get("id"));
                    } else if (fate.equals("blank")) {
                        grown |= blanked.get(link.child()).add(row.get("id"));
                    }
                }
            }
        }
        Map<String, Set<Integer>> keeping = new TreeMap<>();
        for (Link link : links) {
            for (Map<String, Integer> row : children(link)) {
                int id = row.get("id");
                if (erased.get(link.child()).contains(id)) {
                    continue;
                }
                String fate = fate(link, row);
                boolean parentErased = erased.get(link.parent()).contains(row.get(link.column()));
                boolean stays = blanked.get(link.child()).contains(id) && !parentErased;
                if (fate.equals("block") && !stays) {
                    blockers.computeIfAbsent(link.name(), name -> new TreeSet<>())
                            .add(id);
                } else if (fate.equals("keep")) {
                    keeping.computeIfAbsent("t" + link.child(), name -> new TreeSet<>())
                            .add(id);
                }
                boolean loses =
                        fate.equals("set-null") || ((fate.equals("keep") || fate.equals("blank")) && link.enforced());
                if (loses && parentErased) {
                    nulledBy.add(link);
                    nulled.add(id);
                }
            }
        }
        keeping.forEach((table, ids) -> kept.put(table, (long) ids.size()));
    }

    private List<Map<String, Integer>> children(Link link) {
        return rows.get(link.child()).values().stream()
                .filter(row -> row.get(link.column()) != null
                        && (erased.get(link.parent()).contains(row.get(link.column()))
                                || blanked.get(link.parent()).contains(row.get(link.column()))))
                .toList();
    }

    Map<String, Long> erased() {
        return sizes(erased);
    }

    Map<String, Long> blanked() {
        return sizes(blanked);
    }

    private static Map<String, Long> sizes(List<Set<Integer>> all) {
        Map<String, Long> sizes = new TreeMap<>();
        for (int table = 0; table < all.size(); table++) {
            if (!all.get(table).isEmpty()) {
                sizes.put("t" + table, (long) all.get(table).size());
            }
        }
        return sizes;
    }

    /** Every table as it should be afterwards. */
    List<Map<Integer, Map<String, Integer>>> afterwards() {
        List<Map<Integer, Map<String, Integer>>> after = new ArrayList<>();
        for (int table = 0; table < tables; table++) {
            Map<Integer, Map<String, Integer>> left = new TreeMap<>();
            for (Map<String, Integer> row : rows.get(table).values()) {
                if (!erased.get(table).contains(row.get("id"))) {
                    Map<String, Integer> now = new LinkedHashMap<>(row);
                    if (blanked.get(table).contains(row.get("id"))) {
                        now.put("n", 77);
                    }
                    left.put(row.get("id"), now);
                }
            }
            after.add(left);
        }
        for (int i = 0; i < nulled.size(); i++) {
            Link link = nulledBy.get(i);
            after.get(link.child()).get(nulled.get(i)).put(link.column(), null);
        }
        return after;
    }

    /** The statements that make this world. */
    List<String> script() {
        List<String> script = new ArrayList<>();
        for (int table = 0; table < tables; table++) {
            int own = table;
            StringBuilder create =
                    new StringBuilder("CREATE TABLE t" + table + " (id INTEGER NOT NULL PRIMARY KEY, n INTEGER");
            StringBuilder keys = new StringBuilder();
            for (Link link : links) {
                if (link.child() == own) {
                    create.append(", " + link.column() + " INTEGER" + (link.notNull() ? " NOT NULL" : ""));
                    if (link.enforced()) {
                        keys.append(", FOREIGN KEY (" + link.column() + ") REFERENCES t" + link.parent() + " (id)");
                    }
                }
            }
            script.add(create.append(keys).append(")").toString());
        }
        for (int table = 0; table < tables; table++) {
            int own = table;
            for (Map<String, Integer> row : rows.get(table).values()) {
                // A reference to the table itself comes when all of its rows are there.
                List<String> columns = row.keySet().stream()
                        .filter(column -> links.stream()
                                .noneMatch(link -> link.child() == own
                                        && link.parent() == own
                                        && link.column().equals(column)))
                        .toList();
                script.add("INSERT INTO t" + table + " (" + String.join(", ", columns) + ") VALUES ("
                        + String.join(
                                ", ",
                                columns.stream()
                                        .map(column -> String.valueOf(row.get(column)))
                                        .toList())
                        + ")");
            }
            for (Link link : links) {
                if (link.child() == own && link.parent() == own) {
                    rows.get(table)
                            .values()
                            .forEach(row -> script.add("UPDATE t" + own + " SET " + link.column() + " = "
                                    + row.get(link.column()) + " WHERE id = " + row.get("id")));
                }
            }
        }
        return script;
    }

    /** The rule book as YAML. */
    String ruleBook() {
        StringBuilder yaml = new StringBuilder("version: 1\ntables:\n");
        for (int table = 0; table < tables; table++) {
            yaml.append("  t" + table + ": {blank: {n: 77}" + (table == 0 ? ", person: true" : "")
                    + (policies.get(table).isEmpty() ? "" : ", forget: " + rules(policies.get(table))) + "}\n");
        }
        yaml.append("relations:\n");
        for (Link link : links) {
            String written = link.enforced() ? link.name() : link.name() + " -> t" + link.parent() + ".id";
            yaml.append("  \"" + written + "\": "
                    + (link.forget() ? "{rules: cascade, forget: " + rules(link.rules()) + "}" : rules(link.rules()))
                    + "\n");
        }
        return yaml.toString();
    }

    private static String rules(List<String> rules) {
        return "["
                + String.join(
                        ", ",
                        rules.stream()
                                .map(rule -> {
                                    String word = rule.split(" ")[0];
                                    String when = rule.contains(" ")
                                            ? ", when: \"" + rule.substring(rule.indexOf(' ') + 1) + "\""
                                            : "";
                                    String value = word.equals("block") || word.equals("keep") ? "held" : "[]";
                                    return "{" + word + ": " + value + when + "}";
                                })
                                .toList())
                + "]";
    }
}
