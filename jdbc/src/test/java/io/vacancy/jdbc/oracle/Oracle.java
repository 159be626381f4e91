// SPDX-License-Identifier: Apache-2.0
package io.vacancy.jdbc.oracle;

import io.vacancy.jdbc.oracle.World.Choice;
import io.vacancy.jdbc.oracle.World.Link;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.HashSet;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Set;
import java.util.TreeMap;
import java.util.TreeSet;

/** Says what a deletion should do, row by row and without any cleverness. */
final class Oracle {

    private final World world;
    private final Set<Integer> asked = new TreeSet<>();
    private final Map<Integer, Set<Integer>> askedBesides = new TreeMap<>();
    private List<Set<Integer>> rowsToDelete = new ArrayList<>();
    final Set<Integer> skipped = new TreeSet<>();
    /** By relation: the child rows that block, those that cross the scope, and what others will refer to. */
    final Map<String, Set<String>> blockers = new TreeMap<>();

    final Set<String> crossings = new TreeSet<>();
    final Map<String, Map<Integer, Integer>> changed = new TreeMap<>();
    /** By table: the rows that stay and are blanked. */
    final Map<String, Set<Integer>> blanked = new TreeMap<>();
    /** Rows that would go and that something in the way refers to, as table and key. */
    private final Set<List<Integer>> held = new HashSet<>();

    Oracle(World world) {
        this.world = world;
        for (int id : world.selected) {
            if (world.rows.get(world.root).containsKey(id) && inScope(world.root, id)) {
                asked.add(id);
            }
        }
        world.others.forEach((table, ids) -> {
            Set<Integer> there = new TreeSet<>(ids);
            there.removeIf(id -> !world.rows.get(table).containsKey(id) || !inScope(table, id));
            askedBesides.put(table, there);
        });
        judge(asked);
        while (world.skipping && !held.isEmpty()) {
            Set<Integer> hit = new TreeSet<>();
            for (int id : asked) {
                if (!skipped.contains(id) && takesAnyOf(id, held)) {
                    hit.add(id);
                }
            }
            skipped.addAll(hit);
            Set<Integer> left = new TreeSet<>(asked);
            left.removeAll(skipped);
            judge(left);
        }
    }

    private boolean takesAnyOf(int id, Set<List<Integer>> rows) {
        List<Set<Integer>> own = closure(Set.of(id));
        return rows.stream().anyMatch(row -> own.get(row.get(0)).contains(row.get(1)));
    }

    /** Everything that goes with some rows of the root. */
    private List<Set<Integer>> closure(Set<Integer> selected) {
        List<Set<Integer>> going = new ArrayList<>();
        for (int table = 0; table < world.tables; table++) {
            going.add(new TreeSet<>());
        }
        going.get(world.root).addAll(selected);
        askedBesides.forEach((table, ids) -> going.get(table).addAll(ids));
        boolean grown = !world.blanking;
        while (grown) {
            grown = false;
            for (Link link : world.links) {
                for (Map<String, Integer> row : children(link, going)) {
                    if (inScope(link.child(), row.get("id"))
                            && action(link, row).equals("cascade")) {
                        grown |= going.get(link.child()).add(row.get("id"));
                    }
                }
            }
        }
        return going;
    }

    private void judge(Set<Integer> selected) {
        blockers.clear();
        crossings.clear();
        changed.clear();
        blanked.clear();
        held.clear();
        rowsToDelete = closure(selected);
        if (world.blanking) {
            selected.forEach(id -> blank(world.root, id));
        }
        for (Link link : world.links) {
            for (Map<String, Integer> row : children(link, rowsToDelete)) {
                judge(link, row);
            }
        }
        world.unique.forEach(this::collide);
    }

    private void judge(Link link, Map<String, Integer> row) {
        int id = row.get("id");
        if (rowsToDelete.get(link.child()).contains(id)) {
            return;
        }
        if (!inScope(link.child(), id)) {
            if (world.blanking ? anyBlanks(link) : !onlyLeaves(link)) {
                crossings.add(link.name());
                held.add(List.of(link.parent(), row.get(link.column())));
            }
            return;
        }
        String[] action = action(link, row).split(" ");
        if (world.blanking) {
            if (action[0].equals("blank")) {
                blank(link.child(), id);
            }
            return;
        }
        switch (action[0]) {
            case "blank" -> {
                blank(link.child(), id);
                if (link.enforced()) {
                    change(link, id, null);
                }
            }
            case "block" -> block(link, row, "");
            case "set-null" -> change(link, id, null);
            case "reassign" -> {
                int target = Integer.parseInt(action[1]);
                change(link, id, target);
                if (!mayTake(link.parent(), target)) {
                    block(link, row, " no parent");
                }
            }
            case "to-parents" -> {
                Integer target = world.rows
                        .get(link.parent())
                        .get(row.get(link.column()))
                        .get(action[1]);
                change(link, id, target);
                if (target == null ? link.notNull() : !mayTake(link.parent(), target)) {
                    block(link, row, " no parent");
                }
            }
            default -> {}
        }
    }

    private void blank(int table, int id) {
        blanked.computeIfAbsent("t" + table, name -> new TreeSet<>()).add(id);
    }

    private static boolean anyBlanks(Link link) {
        return link.rules().stream().anyMatch(rule -> rule.action().equals("blank"));
    }

    private void change(Link link, int id, Integer to) {
        changed.computeIfAbsent(link.name(), name -> new TreeMap<>()).put(id, to);
    }

    private void block(Link link, Map<String, Integer> row, String why) {
        blockers.computeIfAbsent(link.name(), name -> new TreeSet<>()).add(row.get("id") + why);
        Integer parent = row.get(link.column());
        if (parent != null && rowsToDelete.get(link.parent()).contains(parent)) {
            held.add(List.of(link.parent(), parent));
        }
    }

    private boolean mayTake(int table, int id) {
        return world.rows.get(table).containsKey(id)
                && inScope(table, id)
                && !rowsToDelete.get(table).contains(id);
    }

    /** Rows that would have the same r0 and n, as far as r0 is written. */
    private void collide(int table) {
        boolean reassigns = world.links.stream()
                .anyMatch(link -> link.child() == table
                        && link.column().equals("r0")
                        && world.rows.get(table).values().stream()
                                .anyMatch(row -> changed.getOrDefault(link.name(), Map.of())
                                                .containsKey(row.get("id"))
                                        && action(link, row).contains(" ")));
        if (!reassigns) {
            return;
        }
        Map<List<Integer>, List<Integer>> groups = new HashMap<>();
        afterwards().get(table).forEach((id, row) -> {
            if (row.get("r0") != null && row.get("n") != null) {
                groups.computeIfAbsent(List.of(row.get("r0"), row.get("n")), key -> new ArrayList<>())
                        .add(id);
            }
        });
        for (Link link : world.links) {
            if (link.child() == table && link.column().equals("r0") && changed.containsKey(link.name())) {
                groups.values().stream()
                        .filter(ids -> ids.size() > 1)
                        .forEach(ids -> ids.forEach(
                                id -> block(link, world.rows.get(table).get(id), " same")));
                changed.get(link.name()).keySet().forEach(id -> takePlace(link, id));
            }
        }
    }

    /** A row that would take the place of one that goes, which is still there when rows are changed. */
    private void takePlace(Link link, int id) {
        Map<String, Integer> row = afterwards().get(link.child()).get(id);
        boolean taken = row.get("r0") != null
                && row.get("n") != null
                && rowsToDelete.get(link.child()).stream()
                        .map(world.rows.get(link.child())::get)
                        .anyMatch(other -> row.get("r0").equals(other.get("r0"))
                                && row.get("n").equals(other.get("n")));
        if (taken) {
            block(link, world.rows.get(link.child()).get(id), " place");
        }
    }

    /** Whether a row may stand beside those that were seen, under a unique key of r0 and n. */
    static boolean mayStand(Map<String, Integer> row, Set<List<Integer>> seen) {
        Integer parent = row.get("r0");
        Integer n = row.get("n");
        return parent == null || n == null || seen.add(List.of(parent, n));
    }

    private static boolean onlyLeaves(Link link) {
        return !link.rules().isEmpty()
                && link.rules().stream().allMatch(rule -> rule.action().equals("leave"))
                && link.rules().get(link.rules().size() - 1).when() == null;
    }

    /** Rows that refer to a doomed row. */
    private List<Map<String, Integer>> children(Link link, List<Set<Integer>> going) {
        return world.rows.get(link.child()).values().stream()
                .filter(row -> link.to(row) != null && going.get(link.parent()).contains(link.to(row)))
                .toList();
    }

    private boolean inScope(int table, int id) {
        return !world.scoped || world.rows.get(table).get(id).get("owner") == 1;
    }

    private String action(Link link, Map<String, Integer> row) {
        String action = null;
        for (Choice rule : link.rules()) {
            if (action == null && world.holds(rule, row)) {
                action = rule.action();
            }
        }
        if (action == null) {
            action = switch (link.onDelete()) {
                case "CASCADE" -> "cascade";
                case "SET NULL" -> "set-null";
                default -> "block";
            };
        }
        return action.equals("cascade") && world.neverDeleted.contains(link.child()) ? "block" : action;
    }

    boolean nothing() {
        return asked.isEmpty() && askedBesides.values().stream().allMatch(Set::isEmpty);
    }

    boolean everythingSpared() {
        return !asked.isEmpty() && skipped.containsAll(asked);
    }

    boolean refused() {
        return !world.blanking
                && (world.neverDeleted.contains(world.root)
                        || world.others.keySet().stream().anyMatch(world.neverDeleted::contains));
    }

    boolean blocked() {
        return !blockers.isEmpty() || !crossings.isEmpty();
    }

    /** How many rows of each table go, tables without any left out. */
    Map<String, Long> going() {
        Map<String, Long> going = new TreeMap<>();
        for (int table = 0; table < world.tables; table++) {
            if (!rowsToDelete.get(table).isEmpty() && !world.blanking) {
                going.put("t" + table, (long) rowsToDelete.get(table).size());
            }
        }
        return going;
    }

    /** Every table as it should be afterwards. */
    List<Map<Integer, Map<String, Integer>>> afterwards() {
        List<Map<Integer, Map<String, Integer>>> after = new ArrayList<>();
        for (int table = 0; table < world.tables; table++) {
            Map<Integer, Map<String, Integer>> rows = new TreeMap<>();
            for (Map<String, Integer> row : world.rows.get(table).values()) {
                if (world.blanking || !rowsToDelete.get(table).contains(row.get("id"))) {
                    rows.put(row.get("id"), new LinkedHashMap<>(row));
                }
            }
            after.add(rows);
        }
        for (int table = 0; table < world.tables; table++) {
            for (int id : blanked.getOrDefault("t" + table, Set.of())) {
                after.get(table).get(id).put("n", world.blank(table));
            }
        }
        for (Link link : world.links) {
            changed.getOrDefault(link.name(), Map.of())
                    .forEach((id, to) -> after.get(link.child()).get(id).put(link.column(), to));
        }
        return after;
    }
}
