// SPDX-License-Identifier: Apache-2.0
package io.vacancy.rules;

import io.vacancy.failure.MisuseException;
import io.vacancy.failure.Problem;
import io.vacancy.failure.RuleBookException;
import io.vacancy.internal.argument.Arguments;
import io.vacancy.internal.argument.NearestName;
import io.vacancy.question.Question.Strength;
import io.vacancy.request.Limits;
import io.vacancy.request.Mode;
import io.vacancy.request.NamedDeletion;
import io.vacancy.request.OperationKind;
import io.vacancy.schema.Relation;
import io.vacancy.schema.Row;
import io.vacancy.schema.Schema;
import io.vacancy.schema.Table;
import io.vacancy.schema.TableName;
import java.util.ArrayList;
import java.util.Collection;
import java.util.Collections;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Set;
import java.util.TreeSet;
import org.jspecify.annotations.Nullable;

/** A rule book fitted to a database: every name looked up, every rule checked. Immutable. */
public final class ResolvedRules {

    private final Schema schema;
    private final RulesByMode rules;
    private final PersonPolicies persons;
    private final Map<String, List<String>> written;
    private final Map<TableName, TableEntry> tables;
    private final Map<TableName, Label> labels;
    private final Map<TableName, ResolvedMarker> markers;
    private final ConfirmationRules confirmation;
    private final Map<String, NamedDeletion> deletions;
    private final Retention retention;
    private final @Nullable String outbox;
    private final PersonalColumns personal;
    private final List<Problem> problems;

    ResolvedRules(
            Schema schema,
            RulesByMode rules,
            PersonPolicies persons,
            Map<TableName, TableEntry> tables,
            Map<TableName, Label> labels,
            Map<TableName, ResolvedMarker> markers,
            Map<String, List<String>> written,
            ConfirmationRules confirmation,
            Map<String, NamedDeletion> deletions,
            Retention retention,
            @Nullable String outbox,
            List<Problem> problems) {
        this.schema = schema;
        this.rules = rules;
        this.persons = persons;
        this.written = Map.copyOf(written);
        this.tables = Map.copyOf(tables);
        this.labels = Map.copyOf(labels);
        this.markers = Map.copyOf(markers);
        this.confirmation = confirmation;
        this.deletions = Collections.unmodifiableMap(new LinkedHashMap<>(deletions));
        this.retention = retention;
        this.outbox = outbox;
        this.personal = PersonalColumns.of(schema, this.tables);
        this.problems = List.copyOf(problems);
    }

    /** Fits a rule book to a database and keeps what is wrong as {@link #problems()}. */
    public static ResolvedRules check(RuleBook book, Schema schema) {
        return new RuleResolver(book, schema).rules();
    }

    /**
     * Fits a rule book to a database.
     *
     * @throws RuleBookException if anything in it is wrong, with every error
     */
    public static ResolvedRules fit(RuleBook book, Schema schema) {
        ResolvedRules rules = check(book, schema);
        List<Problem> errors = rules.problems.stream().filter(Problem::error).toList();
        if (!errors.isEmpty()) {
            throw new RuleBookException(errors);
        }
        return rules;
    }

    /** The database's tables and relations, with the relations that the rule book declares. */
    public Schema schema() {
        return schema;
    }

    /** What is wrong; where nothing is, what is worth knowing. */
    public List<Problem> problems() {
        return problems;
    }

    /**
     * The rules on a relation in the order in which they are tried; the last one holds for every row.
     */
    public List<Rule> rulesFor(Relation relation) {
        return rules.of(relation);
    }

    /**
     * The same for parents that go in a mode. Where nothing is said of parents that are soft-deleted, links stay,
     * and all else holds for them too.
     */
    public List<Rule> rulesFor(Relation relation, OperationKind mode) {
        return rules.of(relation, mode);
    }

    /** How rows of a table are marked as soft-deleted, or null if they cannot be. */
    public @Nullable ResolvedMarker marker(TableName table) {
        return markers.get(table);
    }

    /**
     * How rows of a table are marked.
     *
     * @throws MisuseException if they cannot be
     */
    public ResolvedMarker requiredMarker(TableName table) {
        ResolvedMarker marker = marker(table);
        if (marker == null) {
            throw new MisuseException(
                    "Rows of " + table + " cannot be soft-deleted: the rule book gives the table no marker.",
                    "Give it one, as in marker: {date: left_on}, or erase them.");
        }
        return marker;
    }

    /**
     * What columns of a table's rows hold once they are blanked.
     *
     * @throws MisuseException if nothing of them can be blanked
     */
    public List<Assignment> blanks(TableName table) {
        return new BlankResolver(schema, schema.table(table)).blanks(tables.get(table));
    }

    /** Whether the rule book says what is personal in a table, so that its rows can be blanked. */
    public boolean canBlank(Table table) {
        TableEntry entry = tables.get(table.name());
        return entry != null && !(entry.personal().isEmpty() && entry.blank().isEmpty());
    }

    /** The tables whose rows can be soft-deleted. */
    public Set<TableName> marked() {
        return new TreeSet<>(markers.keySet());
    }

    /** How long something is kept of the rows of a table. */
    public Retention retention(TableName table) {
        TableEntry entry = tables.get(table);
        Retention said = entry == null ? null : entry.retention();
        return said == null ? retention : said;
    }

    /** The columns whose values the audit history does not tell. */
    public PersonalColumns personal() {
        return personal;
    }

    /** The source that events for other systems name, or null where there are none. */
    public @Nullable String outbox() {
        return outbox;
    }

    /** The columns of a table that keep who changed a row and when, or null. */
    public @Nullable AuditColumns auditColumns(TableName table) {
        TableEntry entry = tables.get(table);
        return entry == null ? null : entry.auditColumns();
    }

    /** Columns in which no two active rows of a table may be the same. */
    public List<List<String>> uniqueWhileActive(TableName table) {
        TableEntry entry = tables.get(table);
        return entry == null ? List.of() : entry.uniqueWhileActive();
    }

    /** Whether the rule book mentions a relation, or leaves it to the schema. */
    public boolean mentions(Relation relation) {
        return written.containsKey(relation.name());
    }

    /** What a request may put in the place of the rules on relations. */
    public PermittedRules permitted() {
        return new PermittedRules(this, written);
    }

    /**
     * These rules with those of a request in the place of some.
     *
     * @param asked rules in their written form, by that of their relation
     * @param mode the mode that they are asked for
     * @throws MisuseException if one is not permitted, or does not fit
     */
    public ResolvedRules with(Map<String, String> asked, OperationKind mode) {
        if (asked.isEmpty()) {
            return this;
        }
        Map<Relation, List<Rule>> instead = new LinkedHashMap<>();
        asked.forEach((name, rule) -> {
            Relation relation = schema.relation(name);
            instead.put(relation, permitted().instead(relation, Rule.read(rule), of(relation, mode)));
        });
        return withInstead(instead, written, mode);
    }

    /** Rows of a table without a marker are only ever erased, also where it begins with a soft delete. */
    private OperationKind of(Relation relation, OperationKind mode) {
        return markers.containsKey(relation.parent()) ? mode : OperationKind.ERASE;
    }

    /**
     * These rules with others in the place of those on some relations, permitted or not; no request can replace them.
     *
     * @param mode the mode that they are for
     * @throws MisuseException if one does not fit
     */
    public ResolvedRules withInstead(Map<Relation, List<Rule>> instead, OperationKind mode) {
        Map<Relation, List<Rule>> fitted = new LinkedHashMap<>();
        Map<String, List<String>> permits = new LinkedHashMap<>(written);
        instead.forEach((relation, each) -> {
            fitted.put(
                    relation,
                    each.stream()
                            .map(rule -> RelationRules.fitted(rule, relation, schema, of(relation, mode)))
                            .toList());
            permits.put(relation.name(), List.of());
        });
        return withInstead(fitted, permits, mode);
    }

    private ResolvedRules withInstead(
            Map<Relation, List<Rule>> instead, Map<String, List<String>> permits, OperationKind mode) {
        RulesByMode changed = rules.with(instead, relation -> of(relation, mode));
        for (String contradiction : changed.contradictions(schema).keySet()) {
            throw new MisuseException(contradiction);
        }
        return with(changed, permits);
    }

    /** The same where some tables are known that are not in the database any more. */
    public ResolvedRules knowing(List<Table> gone) {
        List<Table> all = new ArrayList<>(schema.tables());
        all.addAll(Arguments.noneNull(gone, "gone"));
        return with(new Schema(all, schema.relations()), rules, written);
    }

    private ResolvedRules with(RulesByMode changed, Map<String, List<String>> permits) {
        return with(schema, changed, permits);
    }

    private ResolvedRules with(Schema other, RulesByMode changed, Map<String, List<String>> permits) {
        return new ResolvedRules(
                other,
                changed,
                persons,
                tables,
                labels,
                markers,
                permits,
                confirmation,
                deletions,
                retention,
                outbox,
                problems);
    }

    /**
     * These rules where a person is forgotten: what becomes of rows that belong to the person, their tables say. No
     * request can replace them.
     *
     * @throws MisuseException if the rule book does not call rows of the table persons
     */
    public ResolvedRules forgetting(TableName person) {
        modeOfPerson(person);
        Map<String, List<String>> permits = new LinkedHashMap<>();
        schema.relations().forEach(relation -> permits.put(relation.name(), List.of()));
        return with(persons.rules(schema, rules), permits);
    }

    /**
     * The rules by which everything is found that belongs to a person, to be looked at and nothing else: whatever would
     * keep it from being deleted does not hold.
     *
     * @throws MisuseException if the rule book does not call rows of the table persons
     */
    public ResolvedRules belonging(TableName person) {
        modeOfPerson(person);
        return new ResolvedRules(
                schema,
                persons.belonging(schema, rules),
                persons,
                Map.of(),
                labels,
                markers,
                Map.of(),
                confirmation,
                deletions,
                retention,
                null,
                List.of());
    }

    /**
     * What becomes of a person's own row when the person is forgotten: it is erased, or blanked.
     *
     * @throws MisuseException if the rule book does not call rows of the table persons
     */
    public OperationKind modeOfPerson(TableName table) {
        return persons.mode(table);
    }

    /** The tables whose rows the rule book calls persons. */
    public Set<TableName> persons() {
        return persons.inOrder();
    }

    /** How rows of a table go unless a request says otherwise. */
    public Mode usualMode(TableName table) {
        TableEntry entry = tables.get(table);
        Mode mode = entry == null ? null : entry.mode();
        return mode == null ? Mode.ERASE : mode;
    }

    /** The tables whose rows are removed by triggers of a table, and of which images are archived. */
    public List<TableName> archivedWith(TableName table) {
        TableEntry entry = tables.get(table);
        return entry == null
                ? List.of()
                : entry.archivedWith().stream()
                        .map(name -> schema.table(name).name())
                        .toList();
    }

    /** Whether the rule book promises that policies of the database hide no row of a table that matters. */
    public boolean nothingHidden(TableName table) {
        TableEntry entry = tables.get(table);
        return entry != null && entry.nothingHidden();
    }

    /** Whether no row of a table may ever go. */
    public boolean neverDeleted(TableName table) {
        TableEntry entry = tables.get(table);
        return entry != null && entry.neverDeletedFrom();
    }

    /** Whether a row of a table must always stay. */
    public boolean neverEmptied(TableName table) {
        TableEntry entry = tables.get(table);
        return entry != null && entry.neverEmptied();
    }

    /** What refuses requests for rows of a table. */
    public Limits limits(TableName table) {
        TableEntry entry = tables.get(table);
        return entry == null ? Limits.NONE : entry.limits();
    }

    /**
     * How strong the question is.
     *
     * @param selectedFrom the table that rows were selected from
     * @param everyRow whether all of its rows go
     * @param goes how many rows would be deleted in total
     */
    public Strength strength(TableName selectedFrom, boolean everyRow, long goes) {
        return confirmation.strength(selectedFrom, everyRow, goes);
    }

    /**
     * Why somebody else has to approve it, in a few words; null where nobody has to.
     *
     * @param selectedFrom the table that rows were selected from
     * @param goes how many rows would be affected in total
     */
    public @Nullable String approval(TableName selectedFrom, OperationKind operation, long goes) {
        return confirmation.approval(selectedFrom, operation, goes);
    }

    /** The deletions that have a name, in the order of the rule book. */
    public Collection<NamedDeletion> deletions() {
        return deletions.values();
    }

    /**
     * The deletion of this name.
     *
     * @throws MisuseException if there is none, with the nearest name
     */
    public NamedDeletion deletion(String name) {
        NamedDeletion deletion = deletions.get(name);
        if (deletion == null) {
            throw new MisuseException(
                    "The rule book has no deletion @" + name + NearestName.question(name, deletions.keySet()));
        }
        return deletion;
    }

    /** What a row is called in front of people. */
    public String label(Row row) {
        Table table = schema.table(row.table());
        @Nullable Label own = labels.get(row.table());
        return (own == null ? Label.usual(table) : own).of(row);
    }
}
