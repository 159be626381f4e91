package io.vacancy.schema;

import io.vacancy.failure.MisuseException;
import java.util.ArrayList;
import java.util.Collection;
import java.util.Comparator;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.TreeMap;
import java.util.stream.Collectors;

/** The tables and relations of a database. Immutable; a database that changes is read again. */
public final class Schema {

    private final Map<TableName, Table> tables = new TreeMap<>();
    private final List<Relation> relations;
    private final Map<TableName, List<Relation>> byParent = new HashMap<>();
    private final Map<TableName, List<Relation>> byChild = new HashMap<>();

    public Schema(Collection<Table> tables, Collection<Relation> relations) {
        tables.forEach(table -> this.tables.put(table.name(), table));
        this.relations = named(relations);
        for (Relation relation : this.relations) {
            byParent.computeIfAbsent(relation.parent(), key -> new ArrayList<>())
                    .add(relation);
            byChild.computeIfAbsent(relation.child(), key -> new ArrayList<>()).add(relation);
        }
    }

    /** Relations that start from the same columns get their parent into the name; all are sorted by name. */
    private static List<Relation> named(Collection<Relation> relations) {
        Map<String, List<Relation>> byName = relations.stream().collect(Collectors.groupingBy(Relation::name));
        return byName.values().stream()
                .flatMap(
                        same -> same.size() == 1 ? same.stream() : same.stream().map(Relation::withParentInName))
                .sorted(Comparator.comparing(Relation::name))
                .toList();
    }

    /** All tables and views, by name. */
    public Collection<Table> tables() {
        return List.copyOf(tables.values());
    }

    /** All relations, sorted by name. */
    public List<Relation> relations() {
        return relations;
    }

    /**
     * The relation of this written form; the parent may stand behind an arrow where it need not.
     *
     * @throws MisuseException if there is none, with the nearest name
     */
    public Relation relation(String written) {
        for (Relation relation : relations) {
            boolean withParent =
                    relation.withParentInName().name().replace(" ", "").equals(written.replace(" ", ""));
            if (relation.name().equals(written) || withParent) {
                return relation;
            }
        }
        List<String> names = relations.stream().map(Relation::name).toList();
        throw new MisuseException(
                "Relation " + written + " is not in the database" + NearestName.question(written, names));
    }

    /** The relations whose parent is this table, sorted by name. */
    public List<Relation> relationsTo(TableName parent) {
        return List.copyOf(byParent.getOrDefault(parent, List.of()));
    }

    /** The relations whose child is this table, sorted by name. */
    public List<Relation> relationsFrom(TableName child) {
        return List.copyOf(byChild.getOrDefault(child, List.of()));
    }

    /**
     * The table of this exact name.
     *
     * @throws MisuseException if there is none
     */
    public Table table(TableName name) {
        Table table = tables.get(name);
        return table != null ? table : table(name.toString());
    }

    /**
     * The table that a person wrote.
     *
     * @param written its name, with its schema outside the default one; another case is understood where
     *     only one table can be meant
     * @throws MisuseException if there is none, with the nearest name
     */
    public Table table(String written) {
        List<Table> alike = new ArrayList<>();
        for (Table table : tables.values()) {
            String name = table.name().toString();
            if (name.equals(written)) {
                return table;
            }
            if (name.equalsIgnoreCase(written)) {
                alike.add(table);
            }
        }
        if (alike.size() == 1) {
            return alike.get(0);
        }
        List<String> names = tables.keySet().stream().map(TableName::toString).toList();
        throw new MisuseException(
                "Table " + written + " is not in the database" + NearestName.question(written, names),
                tables.isEmpty() ? "The database has no tables at all; is it the right one?" : null);
    }
}
