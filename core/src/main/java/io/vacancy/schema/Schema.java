// SPDX-License-Identifier: Apache-2.0
package io.vacancy.schema;

import io.vacancy.failure.MisuseException;
import io.vacancy.internal.argument.Arguments;
import java.util.ArrayList;
import java.util.Collection;
import java.util.Comparator;
import java.util.HashMap;
import java.util.LinkedHashMap;
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
        Arguments.noneNull(tables, "tables");
        Arguments.noneNull(relations, "relations");
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
     * The relation of this written form; the parent may stand behind an arrow where it need not. Another case is
     * understood where only one relation can be meant.
     *
     * @throws MisuseException if there is none, with the nearest name, or several could be meant
     */
    public Relation relation(String written) {
        Map<String, Relation> known = new LinkedHashMap<>();
        relations.forEach(
                relation -> known.put(squeezed(relation.withParentInName().name()), relation));
        relations.forEach(relation -> known.put(squeezed(relation.name()), relation));
        String meant = Names.matching(squeezed(Arguments.notBlank(written, "relation")), known.keySet());
        Relation relation = meant == null ? null : known.get(meant);
        if (relation != null) {
            return relation;
        }
        List<String> names = relations.stream().map(Relation::name).toList();
        Names.known(written, names, "Relation", "the database");
        throw new MisuseException("Relation " + written + " is not in the database.");
    }

    private static String squeezed(String written) {
        return written.replace(" ", "");
    }

    /** The relations whose parent is this table, sorted by name. */
    public List<Relation> relationsTo(TableName parent) {
        Arguments.notNull(parent, "parent");
        return List.copyOf(byParent.getOrDefault(parent, List.of()));
    }

    /** The relations whose child is this table, sorted by name. */
    public List<Relation> relationsFrom(TableName child) {
        Arguments.notNull(child, "child");
        return List.copyOf(byChild.getOrDefault(child, List.of()));
    }

    /**
     * The table of this exact name.
     *
     * @throws MisuseException if there is none
     */
    public Table table(TableName name) {
        Arguments.notNull(name, "name");
        Table table = tables.get(name);
        return table != null ? table : table(name.toString());
    }

    /** Whether there is a table of this name, as {@link #table(String)} understands it. */
    public boolean has(String table) {
        List<String> names = tables.keySet().stream().map(TableName::toString).toList();
        return Names.matching(Arguments.notBlank(table, "table"), names) != null;
    }

    /**
     * The table that a person wrote.
     *
     * @param written its name, with its schema outside the default one; another case is understood where
     *     only one table can be meant
     * @throws MisuseException if there is none, with the nearest name
     */
    public Table table(String written) {
        Arguments.notBlank(written, "table");
        Map<String, Table> known = new LinkedHashMap<>();
        tables.values().forEach(table -> known.put(table.name().toString(), table));
        String meant = Names.matching(written, known.keySet());
        Table table = meant == null ? null : known.get(meant);
        if (table != null) {
            return table;
        }
        if (tables.isEmpty()) {
            throw new MisuseException(
                    "Table " + written + " is not in the database.",
                    "The database has no tables at all; is it the right one?");
        }
        Names.known(written, known.keySet(), "Table", "the database");
        throw new MisuseException("Table " + written + " is not in the database.");
    }
}
