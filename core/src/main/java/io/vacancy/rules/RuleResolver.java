// SPDX-License-Identifier: Apache-2.0
package io.vacancy.rules;

import io.vacancy.failure.MisuseException;
import io.vacancy.failure.Problem;
import io.vacancy.failure.SourceLocation;
import io.vacancy.request.NamedDeletion;
import io.vacancy.request.OperationKind;
import io.vacancy.rules.RuleBook.QuestionEntry;
import io.vacancy.rules.RuleBook.RelationEntry;
import io.vacancy.schema.Column;
import io.vacancy.schema.Relation;
import io.vacancy.schema.Schema;
import io.vacancy.schema.Table;
import io.vacancy.schema.TableName;
import io.vacancy.schema.TimeEncoding;
import io.vacancy.schema.ValueKind;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Set;
import java.util.stream.Collectors;
import java.util.stream.Stream;
import org.jspecify.annotations.Nullable;

/** Holds what somebody wrote against what is there: looks names up, reads conditions, collects problems. */
final class RuleResolver {

    private final RuleBook book;
    private final List<Problem> problems = new ArrayList<>();
    private final Map<String, NamedDeletion> deletions = new LinkedHashMap<>();
    private final Map<TableName, TableEntry> tables = new HashMap<>();
    private final Map<TableName, Label> labels = new HashMap<>();
    private final Map<Relation, List<Rule>> rules = new LinkedHashMap<>();
    private final Map<Relation, List<Rule>> whenSoftDeleted = new LinkedHashMap<>();
    private final Map<Relation, List<Rule>> whenForgotten = new LinkedHashMap<>();
    private final Map<TableName, List<Rule>> policies = new HashMap<>();
    private final Map<TableName, ResolvedMarker> markers = new HashMap<>();
    private final Map<String, List<String>> written = new HashMap<>();
    private final Map<Relation, SourceLocation> places = new HashMap<>();
    private final Map<TableName, SourceLocation> placesOfTables = new HashMap<>();
    private Schema schema;

    RuleResolver(RuleBook book, Schema read) {
        this.book = book;
        this.schema = read;
    }

    ResolvedRules rules() {
        times();
        declare();
        book.tables().forEach(entry -> trying(entry.place(), () -> table(entry)));
        book.relations().forEach(entry -> trying(entry.place(), () -> relation(entry)));
        book.questions().forEach(entry -> trying(entry.place(), () -> question(entry)));
        book.approvals().forEach(entry -> trying(entry.place(), () -> approval(entry)));
        book.deletions().forEach(entry -> trying(entry.place(), () -> deletion(entry)));
        book.tables().forEach(entry -> trying(entry.place(), () -> stampsOfParents(entry)));
        undecided();
        RulesByMode byMode = new RulesByMode(rules, whenSoftDeleted, Map.of());
        byMode.contradictions(schema)
                .forEach((told, relation) -> problems.add(new Problem(true, told, places.get(relation))));
        PersonPolicies persons = persons();
        if (problems.stream().noneMatch(Problem::error)) {
            // Beside errors it would be noise, and wrong of relations whose rules could not be read.
            notices();
            persons.unsaid(schema, byMode)
                    .forEach(relation -> problems.add(new Problem(
                            false,
                            "Rows of " + relation.child() + " belong to a person through " + relation
                                    + ", and block when the person is forgotten: nothing says by forget what becomes of them.",
                            placesOfTables.get(relation.child()))));
        }
        return new ResolvedRules(
                schema,
                byMode,
                persons,
                tables,
                labels,
                markers,
                written,
                new ConfirmationRules(schema, book.questions(), book.approvals()),
                deletions,
                book.retention(),
                book.outbox(),
                problems);
    }

    /** Policies are judged together, once all of them are known. */
    private PersonPolicies persons() {
        Set<TableName> persons = tables.entrySet().stream()
                .filter(entry -> entry.getValue().ofPersons())
                .map(Map.Entry::getKey)
                .collect(Collectors.toSet());
        book.tables().forEach(entry -> trying(entry.place(), () -> policy(entry, persons)));
        return new PersonPolicies(persons, policies, whenForgotten);
    }

    private void policy(TableEntry entry, Set<TableName> persons) {
        Table table = schema.table(entry.table());
        if (entry.forget().isEmpty() && entry.ofPersons()) {
            throw new MisuseException(
                    "Rows of " + table
                            + " are persons, and it is not said what becomes of them when they are forgotten.",
                    "Write forget: erase or forget: blank.");
        }
        if (entry.forget().isEmpty()) {
            return;
        }
        if (persons.isEmpty()) {
            throw new MisuseException(
                    "It is said what becomes of rows of " + table
                            + " when a person is forgotten, and no table has persons.",
                    "Say person: true of the table whose rows are persons.");
        }
        List<Rule> policy = PersonPolicies.fitted(
                entry.forget(), persons.contains(table.name()), entry.neverDeletedFrom(), table, schema);
        if (policy.get(policy.size() - 1).action() instanceof RuleAction.Blank) {
            new BlankResolver(schema, table).blanks(tables.get(table.name()));
        }
        policies.put(table.name(), policy);
    }

    private void trying(@Nullable SourceLocation place, Runnable step) {
        try {
            step.run();
        } catch (MisuseException wrong) {
            String hint = wrong.hint();
            Problem problem = new Problem(true, wrong.getMessage() + (hint == null ? "" : " " + hint), place);
            if (!problems.contains(problem)) {
                problems.add(problem);
            }
        }
    }

    /** Columns become dates and times before any rule is read. */
    private void times() {
        List<Table> known = new ArrayList<>(schema.tables());
        for (TableEntry entry : book.tables()) {
            if (!entry.times().isEmpty()) {
                trying(entry.place(), () -> {
                    Table table = schema.table(entry.table());
                    entry.times().forEach((name, encoding) -> keeps(table, table.column(name), encoding));
                    known.replaceAll(each -> each == table ? table.withTimes(entry.times()) : each);
                });
            }
        }
        schema = new Schema(known, schema.relations());
    }

    private static void keeps(Table table, Column column, TimeEncoding encoding) {
        ValueKind declared = column.type().kind();
        boolean numeric =
                declared == ValueKind.INTEGER || declared == ValueKind.DECIMAL || declared == ValueKind.FLOATING;
        boolean text = encoding.storedKind() == ValueKind.TEXT;
        if (text ? numeric : declared == ValueKind.TEXT) {
            throw new MisuseException("Column " + column.name() + " of " + table + " holds "
                    + column.type().declared() + ", and " + encoding.word() + " is kept as "
                    + (text ? "a text." : "a number."));
        }
    }

    /** Relations that only the rule book knows join those of the database before any rule is read. */
    private void declare() {
        List<Relation> declared = new ArrayList<>(schema.relations());
        for (RelationEntry entry : book.relations()) {
            if (DeclaredRelations.declares(entry.relation())) {
                trying(entry.place(), () -> {
                    DeclaredRelations known = new DeclaredRelations(schema);
                    Relation relation = known.read(entry.relation());
                    if (!known.has(relation)) {
                        known.wantsComparable(relation);
                        declared.add(relation);
                        String several = known.severalParents(relation);
                        if (several != null) {
                            problems.add(new Problem(false, several, entry.place()));
                        }
                    }
                });
            }
        }
        schema = new Schema(schema.tables(), declared);
    }

    private void table(TableEntry entry) {
        Table table = schema.table(entry.table());
        if (tables.put(table.name(), entry) != null) {
            throw new MisuseException("Table " + table + " appears twice in the rule book.");
        }
        SourceLocation place = entry.place();
        if (place != null) {
            placesOfTables.put(table.name(), place);
        }
        // Each on its own, so that one that is wrong does not hide another.
        Marker marker = entry.marker();
        if (marker != null) {
            trying(place, () -> markers.put(table.name(), new MarkerResolver(table).fitted(marker)));
        }
        entry.personal().forEach(column -> trying(place, () -> table.column(column)));
        if (!entry.blank().isEmpty()) {
            trying(place, () -> new BlankResolver(schema, table).blanks(entry));
        }
        entry.archivedWith().forEach(other -> trying(place, () -> schema.table(other)));
        AuditColumns auditColumns = entry.auditColumns();
        if (auditColumns != null) {
            trying(place, () -> TableChecks.auditColumns(auditColumns, table));
        }
        trying(place, () -> TableChecks.retention(entry, table, markers.get(table.name())));
        trying(place, () -> TableChecks.uniqueWhileActive(entry, table));
        trying(place, () -> TableChecks.mode(entry, table));
        String label = entry.label();
        if (label != null) {
            trying(place, () -> labels.put(table.name(), Label.read(label, table)));
        }
        if (problems.stream().noneMatch(Problem::error)) {
            tables.put(table.name(), spelled(entry, table));
        }
    }

    /** Columns that are written into statements have the table's spelling. */
    private static TableEntry spelled(TableEntry entry, Table table) {
        AuditColumns stamps = entry.auditColumns();
        return entry.withColumns(
                stamps == null
                        ? null
                        : stamps.replaceColumns(name -> table.column(name).name()),
                entry.uniqueWhileActive().stream()
                        .map(unique -> unique.stream()
                                .map(name -> table.column(name).name())
                                .toList())
                        .toList());
    }

    private void stampsOfParents(TableEntry entry) {
        AuditColumns auditColumns = entry.auditColumns();
        for (String name : auditColumns == null ? List.<String>of() : auditColumns.parents()) {
            Relation relation = schema.relation(name);
            TableEntry parent = tables.get(relation.parent());
            if (!relation.child().equals(schema.table(entry.table()).name())) {
                throw new MisuseException(
                        "Rows of " + entry.table() + " have no parent by " + relation + ", so none is stamped.");
            }
            if (parent == null || parent.auditColumns() == null) {
                throw new MisuseException(
                        "Table " + relation.parent() + " has no stamps that " + relation + " could set.",
                        "Name its columns for who and when.");
            }
        }
    }

    /** Where a parent can be soft-deleted, it must be said what becomes of child rows that cannot be. */
    private void undecided() {
        for (Relation relation : schema.relations()) {
            boolean mixed = markers.containsKey(relation.parent()) && !markers.containsKey(relation.child());
            List<Rule> said = whenSoftDeleted.getOrDefault(
                    relation, rules.getOrDefault(relation, List.of(Rule.declaredBy(relation))));
            if (mixed && said.stream().anyMatch(rule -> rule.action() instanceof RuleAction.Cascade)) {
                problems.add(new Problem(
                        true,
                        "Rows of " + relation.child() + " go with a soft-deleted row of " + relation.parent()
                                + " through " + relation + ", and " + relation.child()
                                + " has no marker. Say what becomes of them when it is soft-deleted: erase, leave or"
                                + " block.",
                        places.getOrDefault(relation, placesOfTables.get(relation.parent()))));
            }
        }
    }

    private void question(QuestionEntry entry) {
        if (entry.table() != null) {
            schema.table(entry.table());
        }
        if (entry.above() != null && entry.above() < 0) {
            throw new MisuseException("A question cannot hold above " + entry.above() + " rows.");
        }
    }

    private void approval(ApprovalEntry entry) {
        if (entry.table() != null) {
            schema.table(entry.table());
        }
        if (entry.above() != null && entry.above() < 0) {
            throw new MisuseException(
                    "An approval cannot be required above " + entry.above() + " rows.", "Give 0 or more.");
        }
    }

    private void deletion(NamedDeletion deletion) {
        DeletionChecks.check(deletion, schema);
        if (deletions.put(deletion.name(), deletion) != null) {
            throw new MisuseException("Deletion @" + deletion.name() + " appears twice in the rule book.");
        }
    }

    private void relation(RelationEntry entry) {
        Relation relation = new DeclaredRelations(schema).find(entry.relation());
        SourceLocation place = entry.place();
        if (place != null) {
            places.put(relation, place);
        }
        boolean onlyOthers =
                !entry.whenSoftDeleted().isEmpty() || !entry.whenForgotten().isEmpty();
        if (!entry.rules().isEmpty() || !onlyOthers) {
            boolean twice = rules.put(relation, fitted(entry.rules(), relation, OperationKind.ERASE)) != null;
            once(twice, relation, "");
        }
        if (!entry.whenSoftDeleted().isEmpty()) {
            if (!markers.containsKey(relation.parent())) {
                throw new MisuseException(
                        "Table " + relation.parent() + " has no marker, so nothing needs to be said of " + relation
                                + " for when it is soft-deleted.",
                        "Give the table a marker.");
            }
            boolean twice =
                    whenSoftDeleted.put(relation, fitted(entry.whenSoftDeleted(), relation, OperationKind.SOFT_DELETE))
                            != null;
            once(twice, relation, " for parents that are soft-deleted");
        }
        if (!entry.whenForgotten().isEmpty()) {
            PersonPolicies.sayable(entry.whenForgotten(), relation);
            // Whether the parent goes, its own table says, which is known later.
            boolean twice =
                    whenForgotten.put(relation, fitted(entry.whenForgotten(), relation, OperationKind.BLANK)) != null;
            once(twice, relation, " for persons who are forgotten");
        }
        boolean blanks = Stream.of(entry.rules(), entry.whenSoftDeleted())
                .flatMap(List::stream)
                .anyMatch(rule -> rule.action() instanceof RuleAction.Blank);
        if (blanks) {
            new BlankResolver(schema, schema.table(relation.child())).blanks(tables.get(relation.child()));
        }
        for (String permitted : entry.permits()) {
            RelationRules.permittable(permitted, relation, schema);
        }
        if (!entry.rules().isEmpty()) {
            written.put(relation.name(), entry.permits());
        }
    }

    private static void once(boolean twice, Relation relation, String when) {
        if (twice) {
            throw new MisuseException("Relation " + relation + " appears twice in the rule book" + when + ".");
        }
    }

    private List<Rule> fitted(List<Rule> given, Relation relation, OperationKind mode) {
        if (given.isEmpty()) {
            throw new MisuseException("Relation " + relation + " has no rule.");
        }
        List<Rule> fitted = new ArrayList<>();
        boolean everyRow = false;
        for (Rule rule : given) {
            if (everyRow) {
                throw new MisuseException(
                        "The rules after the unconditional one on " + relation + " can never hold.",
                        "Put the rule without a condition last.");
            }
            fitted.add(RelationRules.fitted(rule, relation, schema, mode));
            everyRow = rule.when() == null;
        }
        if (!everyRow) {
            fitted.add(Rule.declaredBy(relation));
        }
        return fitted;
    }

    private void notices() {
        for (Relation relation : schema.relations()) {
            if (!rules.containsKey(relation)) {
                problems.add(new Problem(
                        false,
                        "No rule mentions " + relation + "; it follows the schema: "
                                + Rule.declaredBy(relation).action().word() + ".",
                        null));
            }
        }
    }
}
