package io.vacancy.jdbc.oracle;

import io.vacancy.jdbc.oracle.World.Choice;
import io.vacancy.jdbc.oracle.World.Link;
import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Set;
import java.util.TreeMap;
import java.util.TreeSet;

/** Says what a deletion should do, row by row and without any cleverness. */
final class Oracle {

    private final World world;
    private final List<Set<Integer>> doomed = new ArrayList<>();
    /** By relation: the ids of child rows that block, that cross the scope, and that lose their link. */
    final Map<String, Set<Integer>> blockers = new TreeMap<>();

    final Set<String> crossings = new TreeSet<>();
    final Map<String, Set<Integer>> nulled = new TreeMap<>();

    Oracle(World world) {
        this.world = world;
        for (int table = 0; table < world.tables; table++) {
            doomed.add(new TreeSet<>());
        }
        for (int id : world.selected) {
            if (world.rows.get(world.root).containsKey(id) && inScope(world.root, id)) {
                doomed.get(world.root).add(id);
            }
        }
        boolean grown = true;
        while (grown) {
            grown = false;
            for (Link link : world.links) {
                for (Map<String, Integer> row : new ArrayList<>(children(link))) {
                    if (inScope(link.child(), row.get("id")) && fate(link, row).equals("cascade")) {
                        grown |= doomed.get(link.child()).add(row.get("id"));
                    }
                }
            }
        }
        for (Link link : world.links) {
            for (Map<String, Integer> row : children(link)) {
                judge(link, row);
            }
        }
    }

    private void judge(Link link, Map<String, Integer> row) {
        int id = row.get("id");
        if (doomed.get(link.child()).contains(id)) {
            return;
        }
        if (!inScope(link.child(), id)) {
            if (!onlyLeaves(link)) {
                crossings.add(link.name());
            }
            return;
        }
        switch (fate(link, row)) {
            case "block" ->
                blockers.computeIfAbsent(link.name(), name -> new TreeSet<>()).add(id);
            case "set-null" ->
                nulled.computeIfAbsent(link.name(), name -> new TreeSet<>()).add(id);
            default -> {}
        }
    }

    private static boolean onlyLeaves(Link link) {
        return !link.rules().isEmpty()
                && link.rules().stream().allMatch(rule -> rule.fate().equals("leave"))
                && link.rules().get(link.rules().size() - 1).when() == null;
    }

    /** Rows that refer to a doomed row. */
    private List<Map<String, Integer>> children(Link link) {
        return world.rows.get(link.child()).values().stream()
                .filter(row -> row.get(link.column()) != null
                        && doomed.get(link.parent()).contains(row.get(link.column())))
                .toList();
    }

    private boolean inScope(int table, int id) {
        return !world.scoped || world.rows.get(table).get(id).get("owner") == 1;
    }

    private String fate(Link link, Map<String, Integer> row) {
        String fate = null;
        for (Choice rule : link.rules()) {
            if (fate == null && rule.holdsFor(row)) {
                fate = rule.fate();
            }
        }
        if (fate == null) {
            fate = switch (link.onDelete()) {
                case "CASCADE" -> "cascade";
                case "SET NULL" -> "set-null";
                default -> "block";
            };
        }
        return fate.equals("cascade") && world.neverDeleted.contains(link.child()) ? "block" : fate;
    }

    boolean nothing() {
        return doomed.get(world.root).isEmpty();
    }

    boolean refused() {
        return world.neverDeleted.contains(world.root);
    }

    boolean blocked() {
        return !blockers.isEmpty() || !crossings.isEmpty();
    }

    /** How many rows of each table go, tables without any left out. */
    Map<String, Long> going() {
        Map<String, Long> going = new TreeMap<>();
        for (int table = 0; table < world.tables; table++) {
            if (!doomed.get(table).isEmpty()) {
                going.put("t" + table, (long) doomed.get(table).size());
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
                if (!doomed.get(table).contains(row.get("id"))) {
                    rows.put(row.get("id"), new LinkedHashMap<>(row));
                }
            }
            after.add(rows);
        }
        for (Link link : world.links) {
            nulled.getOrDefault(link.name(), Set.of())
                    .forEach(id -> after.get(link.child()).get(id).put(link.column(), null));
        }
        return after;
    }
}
