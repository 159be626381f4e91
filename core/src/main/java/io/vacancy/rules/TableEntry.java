// SPDX-License-Identifier: Apache-2.0
package io.vacancy.rules;

import io.vacancy.failure.SourceLocation;
import io.vacancy.internal.argument.Arguments;
import io.vacancy.request.Limits;
import io.vacancy.request.Mode;
import io.vacancy.schema.TimeEncoding;
import java.util.ArrayList;
import java.util.Collections;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.function.Consumer;
import org.jspecify.annotations.Nullable;

/**
 * What a rule book says of a table.
 *
 * @param label how its rows are called, with columns in braces, or null for the usual label
 * @param mode how its rows usually go, or null for erase
 * @param neverDeletedFrom whether no row of it may ever go
 * @param nothingHidden whether no row of it is ever hidden from the application by the database's own policies
 * @param neverEmptied whether a row of it must always stay
 * @param limits what refuses requests for its rows
 * @param marker how its rows say that they are soft-deleted, or null if they cannot be
 * @param auditColumns the columns that keep who changed a row and when, or null
 * @param uniqueWhileActive columns in which no two active rows may be the same, though the database has no
 *     unique key that says so
 * @param retention how long something of its rows is kept, or null for what the book says of all tables
 * @param personal columns whose values are told to nobody but in rows and images themselves
 * @param blank what columns hold once a row is blanked, by column; personal ones that are not named hold NULL
 * @param archivedWith tables whose rows its triggers remove, and of which images are archived then
 * @param times how columns keep dates or times whose declared types do not say so, by column
 * @param ofPersons whether its rows are persons, who can be forgotten
 * @param forget what becomes of its rows when the person that they are, or belong to, is forgotten
 * @param place where it stands, or null if it was written in Java
 */
public record TableEntry(
        String table,
        @Nullable String label,
        @Nullable Mode mode,
        boolean neverDeletedFrom,
        boolean nothingHidden,
        boolean neverEmptied,
        Limits limits,
        @Nullable Marker marker,
        @Nullable AuditColumns auditColumns,
        List<List<String>> uniqueWhileActive,
        @Nullable Retention retention,
        List<String> personal,
        Map<String, @Nullable Object> blank,
        List<String> archivedWith,
        Map<String, TimeEncoding> times,
        boolean ofPersons,
        List<Rule> forget,
        @Nullable SourceLocation place) {

    public TableEntry {
        uniqueWhileActive = List.copyOf(uniqueWhileActive);
        personal = List.copyOf(personal);
        blank = Collections.unmodifiableMap(new LinkedHashMap<>(blank));
        archivedWith = List.copyOf(archivedWith);
        times = Map.copyOf(times);
        forget = List.copyOf(forget);
    }

    /** An entry that says nothing yet. */
    public static TableEntry of(String table) {
        Arguments.notBlank(table, "table");
        return new TableEntry(
                table,
                null,
                null,
                false,
                false,
                false,
                Limits.NONE,
                null,
                null,
                List.of(),
                null,
                List.of(),
                Map.of(),
                List.of(),
                Map.of(),
                false,
                List.of(),
                null);
    }

    /** The parts of an entry while one of them is being changed. */
    private static final class Parts {

        private @Nullable String label;
        private @Nullable Mode mode;
        private boolean neverDeletedFrom;
        private boolean nothingHidden;
        private boolean neverEmptied;
        private Limits limits;
        private @Nullable Marker marker;
        private @Nullable AuditColumns auditColumns;
        private List<List<String>> uniqueWhileActive;
        private @Nullable Retention retention;
        private List<String> personal;
        private Map<String, @Nullable Object> blank;
        private List<String> archivedWith;
        private Map<String, TimeEncoding> times;
        private boolean ofPersons;
        private List<Rule> forget;
        private @Nullable SourceLocation place;

        Parts(TableEntry of) {
            label = of.label;
            mode = of.mode;
            neverDeletedFrom = of.neverDeletedFrom;
            nothingHidden = of.nothingHidden;
            neverEmptied = of.neverEmptied;
            limits = of.limits;
            marker = of.marker;
            auditColumns = of.auditColumns;
            uniqueWhileActive = of.uniqueWhileActive;
            retention = of.retention;
            personal = of.personal;
            blank = of.blank;
            archivedWith = of.archivedWith;
            times = of.times;
            ofPersons = of.ofPersons;
            forget = of.forget;
            place = of.place;
        }
    }

    private TableEntry with(Consumer<Parts> change) {
        Parts parts = new Parts(this);
        change.accept(parts);
        return new TableEntry(
                table,
                parts.label,
                parts.mode,
                parts.neverDeletedFrom,
                parts.nothingHidden,
                parts.neverEmptied,
                parts.limits,
                parts.marker,
                parts.auditColumns,
                parts.uniqueWhileActive,
                parts.retention,
                parts.personal,
                parts.blank,
                parts.archivedWith,
                parts.times,
                parts.ofPersons,
                parts.forget,
                parts.place);
    }

    /** How rows are called in front of people: {@code {name} ({registration})}. */
    public TableEntry label(String text) {
        Arguments.notNull(text, "text");
        return with(parts -> parts.label = text);
    }

    /** How rows go unless a request says otherwise. */
    public TableEntry mode(Mode usual) {
        Arguments.notNull(usual, "usual");
        return with(parts -> parts.mode = usual);
    }

    /** No row may ever go, not even with its parent. */
    public TableEntry neverDeleted() {
        return with(parts -> parts.neverDeletedFrom = true);
    }

    /**
     * Promises that no row of it which depends on another is hidden from the application by a policy of the database, so
     * that deletions are not refused for the sake of rows that nobody can see.
     */
    public TableEntry withNothingHidden() {
        return with(parts -> parts.nothingHidden = true);
    }

    /** The last row may never go, not even with its parent. */
    public TableEntry neverEmpty() {
        return with(parts -> parts.neverEmptied = true);
    }

    /** What refuses requests: {@code limits(Limits.NONE.atMost(500))}. */
    public TableEntry limits(Limits all) {
        Arguments.notNull(all, "all");
        return with(parts -> parts.limits = all);
    }

    /** At most so many rows may be selected to go. */
    public TableEntry atMost(long rows) {
        return limits(limits.atMost(rows));
    }

    /** How rows say that they are soft-deleted: {@code marker(Marker.date("left_on"))}. */
    public TableEntry marker(Marker how) {
        Arguments.notNull(how, "how");
        return with(parts -> parts.marker = how);
    }

    /** Which columns keep who changed a row and when; either may be null. */
    public TableEntry auditColumns(@Nullable String changedBy, @Nullable String changedAt) {
        return with(parts -> {
            AuditColumns before = parts.auditColumns == null ? AuditColumns.NONE : parts.auditColumns;
            parts.auditColumns = new AuditColumns(changedBy, changedAt, before.version(), before.parents());
        });
    }

    /**
     * Which column is raised whenever a row is marked, comes back or gets another link, so that whoever has read the row
     * before cannot write it back unnoticed. A whole number, or a time.
     */
    public TableEntry version(String column) {
        Arguments.notBlank(column, "column");
        return with(parts -> {
            AuditColumns before = parts.auditColumns == null ? AuditColumns.NONE : parts.auditColumns;
            parts.auditColumns = new AuditColumns(before.changedBy(), before.changedAt(), column, before.parents());
        });
    }

    /**
     * The stamps of a parent are set as well, whenever rows of this table go, come back or are changed.
     *
     * @param relation by which they refer to it
     */
    public TableEntry stampsParent(String relation) {
        Arguments.notBlank(relation, "relation");
        return with(parts -> {
            AuditColumns before = parts.auditColumns == null ? AuditColumns.NONE : parts.auditColumns;
            List<String> parents = new ArrayList<>(before.parents());
            parents.add(relation);
            parts.auditColumns = new AuditColumns(before.changedBy(), before.changedAt(), before.version(), parents);
        });
    }

    /** No two active rows may be the same in these columns; a row that would be cannot come back. */
    public TableEntry uniqueWhileActive(String... columns) {
        Arguments.noneNull(columns, "columns");
        return with(parts -> {
            List<List<String>> all = new ArrayList<>(parts.uniqueWhileActive);
            all.add(List.of(columns));
            parts.uniqueWhileActive = all;
        });
    }

    /** How long images of its rows, and its rows that are marked as deleted, are kept. */
    public TableEntry retention(Retention time) {
        Arguments.notNull(time, "time");
        return with(parts -> parts.retention = time);
    }

    /**
     * Columns that hold what is personal, such as an e-mail address: the audit history and kept receipts never tell
     * their values, nor those of columns that refer to them.
     */
    public TableEntry personal(String... columns) {
        Arguments.noneNull(columns, "columns");
        return with(parts -> {
            List<String> all = new ArrayList<>(parts.personal);
            all.addAll(List.of(columns));
            parts.personal = all;
        });
    }

    /**
     * What a personal column holds once the row is blanked; the column is personal then, whether or not
     * {@link #personal} names it as well. Personal columns of which nothing is said hold NULL.
     *
     * @param value a value of the column's kind, or null for NULL; in a text, columns of the row's key may stand in
     *     braces, {@code skipper {id}}, which is a pseudonym that stays the same
     */
    public TableEntry blank(String column, @Nullable Object value) {
        Arguments.notBlank(column, "column");
        return with(parts -> {
            Map<String, @Nullable Object> all = new LinkedHashMap<>(parts.blank);
            all.put(column, value);
            parts.blank = all;
        });
    }

    /**
     * Tables whose rows are removed by triggers of this one: images of those rows are archived as well, and come back with the
     * receipt. All rows of such a table are copied and compared at each deletion, and locked meanwhile, so it should be a small
     * one.
     */
    public TableEntry archiveWith(String... tables) {
        Arguments.noneNull(tables, "tables");
        return with(parts -> {
            List<String> all = new ArrayList<>(parts.archivedWith);
            all.addAll(List.of(tables));
            parts.archivedWith = all;
        });
    }

    /**
     * How a column keeps dates or times where its declared type does not say so. Markers, retention, audit columns and
     * conditions then read and write it as a date or time.
     */
    public TableEntry times(String column, TimeEncoding encoding) {
        Arguments.notBlank(column, "column");
        Arguments.notNull(encoding, "encoding");
        return with(parts -> {
            Map<String, TimeEncoding> all = new LinkedHashMap<>(parts.times);
            all.put(column, encoding);
            parts.times = all;
        });
    }

    /** Its rows are persons, who can be forgotten: {@link io.vacancy.request.Request#forget}. */
    public TableEntry person() {
        return with(parts -> parts.ofPersons = true);
    }

    /**
     * What becomes of its rows when the person that they are, or belong to, is forgotten. A person's own row is erased
     * or blanked; of other tables, {@code block} and {@code keep} may come before it, with conditions or a time, and the last
     * one is for every row: {@code forget(Rule.keep("tax law", "issued_on", Period.ofYears(10)), Rule.erase())}.
     */
    public TableEntry forget(Rule... policy) {
        Arguments.noneNull(policy, "policy");
        return with(parts -> parts.forget = List.of(policy));
    }

    /** The same with other names of columns that are written into statements. */
    TableEntry withColumns(@Nullable AuditColumns stamps, List<List<String>> unique) {
        return with(parts -> {
            parts.auditColumns = stamps;
            parts.uniqueWhileActive = unique;
        });
    }

    /** Where the entry stands. */
    public TableEntry at(SourceLocation where) {
        return with(parts -> parts.place = where);
    }
}
