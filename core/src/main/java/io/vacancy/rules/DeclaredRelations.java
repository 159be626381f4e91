// SPDX-License-Identifier: Apache-2.0
package io.vacancy.rules;

import io.vacancy.failure.MisuseException;
import io.vacancy.schema.Column;
import io.vacancy.schema.Discriminator;
import io.vacancy.schema.OnDelete;
import io.vacancy.schema.Relation;
import io.vacancy.schema.Schema;
import io.vacancy.schema.Table;
import io.vacancy.schema.TableName;
import io.vacancy.schema.ValueKind;
import java.util.ArrayList;
import java.util.List;
import java.util.Objects;
import java.util.Set;
import org.jspecify.annotations.Nullable;

/** Relations as a rule book writes them: {@code child.column -> parent.column}, where the database may have none. */
record DeclaredRelations(Schema schema) {

    private static final String ARROW = "->";
    private static final String LIST = "[]";

    static boolean declares(String written) {
        return written.contains(ARROW);
    }

    /** Whether it is known already. */
    boolean has(Relation relation) {
        return schema.relationsFrom(relation.child()).stream().anyMatch(other -> same(other, relation));
    }

    /** The relation that is known of what is written, or as it is written. */
    Relation find(String written) {
        if (!declares(written)) {
            return schema.relation(written);
        }
        Relation meant = read(written);
        return schema.relationsFrom(meant.child()).stream()
                .filter(other -> same(other, meant))
                .findFirst()
                .orElse(meant);
    }

    /** A warning where a row may have several parents, since it goes with the first of them; null where it has one. */
    @Nullable
    String severalParents(Relation relation) {
        if (relation.list()) {
            return "A row of " + relation.child() + " refers to all rows that " + relation
                    + " names, and what is done with one of them is done with the row.";
        }
        Set<String> columns = Set.copyOf(relation.parentColumns());
        return schema.table(relation.parent()).keys().stream().anyMatch(columns::containsAll)
                ? null
                : "Nothing makes " + relation.parent() + "." + String.join(",", relation.parentColumns())
                        + " unique: a row of " + relation.child() + " may have several parents by " + relation
                        + ", and what is done with one of them is done with the row.";
    }

    /** As it is written, whether it is known or not. */
    Relation read(String written) {
        String[] ends = written.split(ARROW, 2);
        End child = end(ends[0].strip());
        End parent = end(ends[1].strip());
        if (child.columns().size() != parent.columns().size()) {
            throw new MisuseException(
                    "Relation " + written + " pairs " + child.columns().size() + " columns with "
                            + parent.columns().size() + ".");
        }
        if (parent.discriminator() != null) {
            throw new MisuseException("Relation " + written + " has a value behind its arrow.", "Child rows have it.");
        }
        if (parent.list() || (child.list() && (child.columns().size() > 1 || child.discriminator() != null))) {
            throw new MisuseException(
                    "Relation " + written + " has [] where no list of keys can stand.",
                    "Write it behind the only column of the child rows: tour.boat_ids[] -> boat.id.");
        }
        Relation relation = Relation.of(
                child.table(), child.columns(), parent.table(), parent.columns(), OnDelete.NO_ACTION, false, false);
        if (child.list()) {
            return relation.ofList();
        }
        return child.discriminator() == null ? relation : relation.only(child.discriminator());
    }

    private static boolean same(Relation one, Relation other) {
        return one.childColumns().equals(other.childColumns())
                && one.list() == other.list()
                && one.parent().equals(other.parent())
                && Objects.equals(String.valueOf(one.discriminator()), String.valueOf(other.discriminator()));
    }

    /** @throws MisuseException if what is compared cannot be equal in any database */
    void wantsComparable(Relation relation) {
        for (int i = 0; i < relation.childColumns().size(); i++) {
            Column child = schema.table(relation.child())
                    .column(relation.childColumns().get(i));
            Column parent = schema.table(relation.parent())
                    .column(relation.parentColumns().get(i));
            if (relation.list()) {
                wantsList(relation, child);
                continue;
            }
            if (!child.type().kind().comparableWith(parent.type().kind())) {
                throw new MisuseException("Column " + child.name() + " of " + relation.child() + " holds "
                        + child.type().declared() + " and cannot refer to " + parent.name() + " of "
                        + relation.parent() + ", which holds " + parent.type().declared() + ".");
            }
        }
    }

    private static void wantsList(Relation relation, Column column) {
        ValueKind kind = column.type().kind();
        if (kind != ValueKind.TEXT && kind != ValueKind.OTHER) {
            throw new MisuseException("Column " + column.name() + " of " + relation.child() + " holds "
                    + column.type().declared() + ", which is no list of keys.");
        }
    }

    private record End(
            TableName table, List<String> columns, @Nullable Discriminator discriminator, boolean list) {}

    /**
     * {@code table.column} or {@code table(column,column)}, where the table may have its schema before it; a column may
     * stand there with the value by which rows refer at all: {@code remark(subject_id,subject_type='boat')}.
     */
    private End end(String written) {
        int open = written.indexOf('(');
        int dot = written.lastIndexOf('.');
        if (open < 0 && dot < 1) {
            throw new MisuseException("\"" + written + "\" is not written as table.column or table(column,column).");
        }
        Table table = schema.table(written.substring(0, open < 0 ? dot : open).strip());
        String columns = open < 0
                ? written.substring(dot + 1)
                : written.substring(open + 1, written.endsWith(")") ? written.length() - 1 : written.length());
        List<String> names = new ArrayList<>();
        Discriminator discriminator = null;
        boolean list = false;
        for (String column : columns.split(",(?=(?:[^']*'[^']*')*[^']*$)")) {
            int equals = column.indexOf('=');
            if (equals < 0) {
                String name = column.strip();
                list |= name.endsWith(LIST);
                names.add(table.column(name.endsWith(LIST) ? name.substring(0, name.length() - LIST.length()) : name)
                        .name());
            } else if (discriminator != null) {
                throw new MisuseException("\"" + written + "\" names several values, and one tells its rows apart.");
            } else {
                discriminator = discriminator(table, column.substring(0, equals), column.substring(equals + 1));
            }
        }
        if (names.isEmpty()) {
            throw new MisuseException("\"" + written + "\" names no column that refers to a row.");
        }
        return new End(table.name(), names, discriminator, list);
    }

    private static Discriminator discriminator(Table table, String name, String written) {
        Column column = table.column(name.strip());
        String value = written.strip();
        boolean quoted = value.length() > 1 && value.startsWith("'") && value.endsWith("'");
        String text = quoted ? value.substring(1, value.length() - 1).replace("''", "'") : value;
        return new Discriminator(column, column.read(text, table.name()));
    }
}
