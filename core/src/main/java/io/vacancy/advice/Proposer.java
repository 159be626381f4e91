// SPDX-License-Identifier: Apache-2.0
package io.vacancy.advice;

import io.vacancy.advice.Proposal.Kind;
import io.vacancy.internal.argument.Arguments;
import io.vacancy.schema.Column;
import io.vacancy.schema.OnDelete;
import io.vacancy.schema.Relation;
import io.vacancy.schema.RowIdentity;
import io.vacancy.schema.Schema;
import io.vacancy.schema.Table;
import io.vacancy.schema.UniqueKey;
import io.vacancy.schema.ValueKind;
import java.util.ArrayList;
import java.util.HashSet;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Set;
import java.util.regex.Pattern;
import java.util.stream.Collectors;
import java.util.stream.Stream;
import org.jspecify.annotations.Nullable;

/**
 * Looks at names, types and keys of a schema for what a rule book could say of it. Reads no row. Names are compared
 * without case and underscores, in English.
 */
public final class Proposer {

    private static final Set<ValueKind> TIMES = Set.of(ValueKind.DATE, ValueKind.TIMESTAMP, ValueKind.INSTANT);
    private static final Pattern DELETED_AT = Pattern.compile("(deleted|removed|erased)(at|on|date|time)");
    private static final Pattern MAYBE_AT =
            Pattern.compile("(archived|ended|left|closed|retired|cancelled|canceled|disabled)(at|on|date|time)");
    private static final Pattern DELETED = Pattern.compile("(is)?(deleted|removed|erased)(flag)?");
    private static final Pattern MAYBE_FLAG =
            Pattern.compile("(is)?(active|enabled|archived|disabled|inactive)(flag)?");
    private static final Pattern START = Pattern.compile("(valid|effective)(from|since|start)");
    private static final Pattern END = Pattern.compile("(valid|effective)(until|to|till|end)");
    private static final Pattern PERSONAL = Pattern.compile(
            ".*(email|emailaddress|phone|phonenumber|mobile|birthday|birthdate|dateofbirth|streetaddress|iban|passport"
                    + "|taxnumber|socialsecurity|firstname|lastname|surname|givenname|familyname).*");
    private static final Pattern NAME = Pattern.compile("(full)?name|address|street|city|zip|postcode|notes?");
    private static final Pattern CALLED = Pattern.compile("(name|title|label|subject)");
    private static final Pattern TELLING = Pattern.compile(".*(name|title|number|code|registration|reference|no)");

    /** A column that fewer tables have is no tenant's. */
    private static final double MOST = 0.6;

    private final Schema schema;
    private final List<Proposal> found = new ArrayList<>();

    private Proposer(Schema schema) {
        this.schema = schema;
    }

    /** What could be said, by kind, table by table. */
    public static List<Proposal> of(Schema schema) {
        return new Proposer(Arguments.notNull(schema, "schema")).all();
    }

    private List<Proposal> all() {
        List<Table> tables =
                schema.tables().stream().filter(table -> !table.view()).toList();
        Set<String> shared = shared(tables);
        for (Table table : tables) {
            label(table);
            marker(table);
            personal(table);
            relations(table, tables, shared);
            if (table.identity().kind() == RowIdentity.Kind.NONE
                    || table.identity().kind() == RowIdentity.Kind.ENGINE_ROW_ID) {
                add(Kind.NO_KEY, table, List.of(), false, "no key tells its rows apart; a primary key would");
            }
        }
        return List.copyOf(found);
    }

    private void add(Kind kind, Table table, List<String> columns, boolean likely, String reason) {
        found.add(new Proposal(kind, table.name(), columns, null, List.of(), likely, reason));
    }

    /** Where a row has no name of its own, what is unique of it besides its key may call it. */
    private void label(Table table) {
        if (table.columns().stream()
                .anyMatch(column -> CALLED.matcher(plain(column)).matches())) {
            return;
        }
        Stream.concat(
                        table.uniqueKeys().stream()
                                .map(UniqueKey::columns)
                                .filter(columns -> columns.size() == 1)
                                .map(columns -> table.column(columns.get(0))),
                        table.columns().stream()
                                .filter(column -> TELLING.matcher(plain(column)).matches()))
                .filter(column -> column.type().kind() == ValueKind.TEXT)
                .findFirst()
                .ifPresent(column -> add(Kind.LABEL, table, List.of(column.name()), true, "the text that tells most"));
    }

    private void marker(Table table) {
        List<Column> own =
                table.columns().stream().filter(column -> !column.generated()).toList();
        List<String> start = names(own, START);
        List<String> end = names(own, END);
        UniqueKey key = table.primaryKey();
        if (!start.isEmpty() && !end.isEmpty() && key != null && key.columns().contains(start.get(0))) {
            List<String> of = key.columns().stream()
                    .filter(name -> !name.equals(start.get(0)))
                    .toList();
            if (!of.isEmpty()) {
                List<String> columns = new ArrayList<>(of);
                columns.addAll(List.of(start.get(0), end.get(0)));
                add(Kind.VERSIONS, table, columns, false, "if its rows are versions that follow one another");
                return;
            }
        }
        for (Column column : own) {
            String name = plain(column);
            boolean time = column.nullable()
                    && column.byDefault() == null
                    && TIMES.contains(column.type().kind());
            boolean flag = Set.of(ValueKind.BOOLEAN, ValueKind.INTEGER, ValueKind.TEXT)
                    .contains(column.type().kind());
            if (time && DELETED_AT.matcher(name).matches()) {
                List<String> without = unmarkedChildren(table);
                add(
                        Kind.DATE_MARKER,
                        table,
                        List.of(column.name()),
                        without.isEmpty(),
                        without.isEmpty()
                                ? "by its name and type"
                                : "by its name and type; say first what becomes of " + String.join(", ", without)
                                        + ": soft-delete: leave, erase or block");
                return;
            }
            if (time && MAYBE_AT.matcher(name).matches()) {
                add(Kind.DATE_MARKER, table, List.of(column.name()), false, "if a row with this date is a deleted one");
            } else if (flag && DELETED.matcher(name).matches()) {
                add(Kind.FLAG_MARKER, table, List.of(column.name()), false, "with the values that it really has");
            } else if (flag && MAYBE_FLAG.matcher(name).matches()) {
                add(
                        Kind.FLAG_MARKER,
                        table,
                        List.of(column.name()),
                        false,
                        "if it says that a row is deleted, and with the values that it really has");
            }
        }
    }

    /** Relations by which rows go with a deleted one and that lead to no marker: a marker of the parent wants a rule there. */
    private List<String> unmarkedChildren(Table table) {
        return schema.relationsTo(table.name()).stream()
                .filter(relation -> relation.onDelete() == OnDelete.CASCADE)
                .filter(relation -> schema.table(relation.child()).columns().stream()
                        .noneMatch(column -> DELETED_AT.matcher(plain(column)).matches()))
                .map(Relation::name)
                .toList();
    }

    private static List<String> names(List<Column> columns, Pattern pattern) {
        return columns.stream()
                .filter(column -> pattern.matcher(plain(column)).matches())
                .map(Column::name)
                .toList();
    }

    /** A name or an address is somebody's where the table has more of a person. */
    private void personal(Table table) {
        List<String> surely = names(table.columns(), PERSONAL);
        if (surely.isEmpty()) {
            return;
        }
        List<String> personal = table.columns().stream()
                .map(Column::name)
                .filter(name ->
                        surely.contains(name) || NAME.matcher(plain(name)).matches())
                .toList();
        add(Kind.PERSONAL, table, personal, true, "by their names");
    }

    private void relations(Table table, List<Table> tables, Set<String> shared) {
        Set<String> referring = schema.relationsFrom(table.name()).stream()
                .flatMap(relation -> relation.childColumns().stream())
                .collect(Collectors.toCollection(HashSet::new));
        for (Column column : table.columns()) {
            if (referring.contains(column.name()) || shared.contains(plain(column)) || isKey(table, column)) {
                continue;
            }
            Proposal relation = byTableName(table, column, tables);
            relation = relation == null ? bySameName(table, column, tables) : relation;
            if (relation != null) {
                found.add(relation);
            }
        }
    }

    private static boolean isKey(Table table, Column column) {
        return table.keys().stream().anyMatch(columns -> columns.equals(List.of(column.name())));
    }

    /** {@code skipper_id} beside a table {@code skipper} or {@code skippers} whose key is a column of the same kind. */
    private @Nullable Proposal byTableName(Table table, Column column, List<Table> tables) {
        String name = plain(column);
        for (Table parent : tables) {
            List<String> key = parent.identity().columns();
            String called = plain(parent.name().name());
            boolean meant = Stream.of(called, singular(called))
                    .anyMatch(each -> name.equals(each + "id")
                            || column.name().toLowerCase(Locale.ROOT).endsWith("_" + each + "_id")
                            || key.size() == 1 && name.equals(each + plain(key.get(0))));
            if (meant && key.size() == 1 && parent.identity().lasts() && sameKind(column, parent.column(key.get(0)))) {
                return relation(table, column, parent, key.get(0), true, "by its name and type");
            }
        }
        return null;
    }

    /** A column that just one other table has too, and that is no everyday name. */
    private static @Nullable Proposal bySameName(Table table, Column column, List<Table> tables) {
        List<Table> others = tables.stream()
                .filter(other -> !other.name().equals(table.name()) && other.has(column.name()))
                .toList();
        String name = plain(column);
        boolean telling = name.endsWith("id")
                || name.endsWith("no")
                || name.endsWith("code")
                || name.endsWith("key")
                || name.endsWith("number")
                || name.endsWith("sign")
                || name.endsWith("ref");
        if (others.size() != 1 || !telling) {
            return null;
        }
        Table parent = others.get(0);
        Column other = parent.column(column.name());
        boolean unique = isKey(parent, other);
        // Of two tables without a key on it, the one whose rows can be told apart is more likely the parent.
        if (!sameKind(column, other)
                || !unique && (!parent.identity().lasts() || table.identity().lasts())) {
            return null;
        }
        return relation(
                table,
                column,
                parent,
                other.name(),
                unique,
                unique ? "the same name and type" : "the same name and type, but nothing makes the parent's unique");
    }

    private static Proposal relation(
            Table table, Column column, Table parent, String parentColumn, boolean likely, String reason) {
        return new Proposal(
                Kind.RELATION,
                table.name(),
                List.of(column.name()),
                parent.name(),
                List.of(parentColumn),
                likely,
                reason);
    }

    private static boolean sameKind(Column one, Column other) {
        return one.type().kind() == other.type().kind();
    }

    /** The plain names of columns that most tables have and nothing refers by. */
    private Set<String> shared(List<Table> tables) {
        Map<String, List<Table>> having = new LinkedHashMap<>();
        for (Table table : tables) {
            Set<String> keys = new HashSet<>(table.identity().columns());
            schema.relationsFrom(table.name()).stream()
                    .map(Relation::childColumns)
                    .forEach(keys::addAll);
            table.columns().stream()
                    .filter(column ->
                            !keys.contains(column.name()) && plain(column).endsWith("id"))
                    .forEach(column -> having.computeIfAbsent(plain(column), name -> new ArrayList<>())
                            .add(table));
        }
        Set<String> shared = new HashSet<>();
        having.forEach((name, tablesWith) -> {
            if (tablesWith.size() > 2 && tablesWith.size() >= MOST * tables.size()) {
                shared.add(name);
                Table first = tablesWith.get(0);
                String column = first.columns().stream()
                        .filter(each -> plain(each).equals(name))
                        .map(Column::name)
                        .findFirst()
                        .orElse(name);
                add(
                        Kind.SHARED_COLUMN,
                        first,
                        List.of(column),
                        false,
                        tablesWith.size() + " of " + tables.size() + " tables have it");
            }
        });
        return shared;
    }

    private static String singular(String name) {
        return name.endsWith("ies")
                ? name.substring(0, name.length() - 3) + "y"
                : name.endsWith("s") ? name.substring(0, name.length() - 1) : name;
    }

    private static String plain(Column column) {
        return plain(column.name());
    }

    private static String plain(String name) {
        return name.toLowerCase(Locale.ROOT).replace("_", "").replace("-", "").replace(" ", "");
    }
}
