// SPDX-License-Identifier: Apache-2.0
package io.vacancy.jpa.check;

import io.vacancy.failure.MisuseException;
import io.vacancy.failure.Problem;
import io.vacancy.jpa.internal.mapping.EntityMapping;
import io.vacancy.jpa.internal.mapping.MappedEntity;
import io.vacancy.jpa.internal.mapping.MappedLink;
import io.vacancy.request.Mode;
import io.vacancy.request.OperationKind;
import io.vacancy.rules.AuditColumns;
import io.vacancy.rules.ResolvedMarker;
import io.vacancy.rules.ResolvedRules;
import io.vacancy.rules.Rule;
import io.vacancy.rules.RuleAction;
import io.vacancy.schema.Relation;
import io.vacancy.schema.Table;
import jakarta.persistence.EntityManagerFactory;
import java.util.ArrayList;
import java.util.Collection;
import java.util.LinkedHashMap;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Map;
import java.util.Objects;
import java.util.Optional;
import java.util.Set;
import java.util.TreeSet;

/**
 * Holds the mapping of entities against the rules, so that it is told at start-up where the one would go round the other: soft
 * deletes that stale entities undo, children that the mapping removes though a rule blocks, rows that queries find though they
 * are marked, relations that no rule can follow since the database does not declare them.
 */
public final class MappingCheck {

    private final ResolvedRules rules;
    private final List<Problem> problems = new ArrayList<>();

    private MappingCheck(ResolvedRules rules) {
        this.rules = rules;
    }

    /**
     * What does not fit, a sentence each with what to do; empty where all does. An error is what loses data or refuses
     * deletions, anything else may be meant.
     *
     * @throws MisuseException if the provider is not Hibernate
     */
    public static List<Problem> problems(EntityManagerFactory factory, ResolvedRules rules) {
        EntityMapping mapping = EntityMapping.of(factory);
        MappingCheck check = new MappingCheck(Objects.requireNonNull(rules, "rules"));
        Map<String, MappedLink> links = new LinkedHashMap<>();
        Set<MappedLink> removing = new LinkedHashSet<>();
        for (MappedEntity entity : mapping.entities()) {
            if (!entity.severalTables()) {
                check.entity(entity);
                for (MappedLink link : entity.links()) {
                    links.putIfAbsent(link.written(), link);
                    if (link.removes() && !link.owned()) {
                        removing.add(link);
                    }
                }
            }
        }
        links.values().forEach(check::declared);
        removing.forEach(check::removes);
        return List.copyOf(check.problems);
    }

    private void entity(MappedEntity entity) {
        Optional<Table> table = table(entity.table());
        if (table.isEmpty()) {
            error("Entity " + entity.name() + " is mapped to table " + entity.table()
                    + ", which is not in the database.");
            return;
        }
        ResolvedMarker marker = rules.marker(table.get().name());
        new RestrictionCheck(entity, table.get(), marker).problems().forEach(problems::add);
        if (entity.softDeletedByProvider()) {
            error("Entity " + entity.name()
                    + " is soft-deleted by the provider, which Vacancy neither sees nor restores. Let one of"
                    + " them do it: give the table a marker, and take the provider's annotation away.");
        }
        if (marker != null) {
            writtenBack(entity, table.get(), marker);
        }
    }

    /** Whoever has read a row before it was marked must not be able to write the marker back. */
    private void writtenBack(MappedEntity entity, Table table, ResolvedMarker marker) {
        AuditColumns stamps = rules.auditColumns(table.name());
        boolean counted = entity.versionColumn() != null
                && stamps != null
                && entity.versionColumn().equalsIgnoreCase(stamps.version());
        if (counted) {
            return;
        }
        Set<String> columns = new TreeSet<>(String.CASE_INSENSITIVE_ORDER);
        columns.addAll(marker.columns());
        String version = entity.versionColumn();
        String wanted = version == null
                ? "Give it a @Version"
                : "Say audit-columns: {version: " + version + "} of the table in the rule book";
        for (String path : entity.attributesIn(columns)) {
            if (entity.updatable(path)) {
                error("A stale " + entity.name() + " that is written back undoes the soft delete, since it writes "
                        + path
                        + " and has no version that Vacancy raises. " + wanted + ", or map " + path
                        + " with updatable = false.");
            }
        }
    }

    private void declared(MappedLink link) {
        if (relation(link).isEmpty()
                && table(link.child()).isPresent()
                && table(link.parent()).isPresent()) {
            problems.add(new Problem(
                    false,
                    "The mapping relates " + link.written()
                            + (link.attribute() == null ? "" : " by " + link.attribute())
                            + ", which the database does not declare, so rows of " + link.child()
                            + " are not seen when their parent is deleted. Declare a foreign key, or say in the rule book: \""
                            + link.written() + "\": cascade, block or leave.",
                    null));
        }
    }

    private void removes(MappedLink link) {
        Optional<Relation> relation = relation(link);
        if (relation.isEmpty()) {
            return;
        }
        List<Rule> rule = rules.rulesFor(relation.get(), OperationKind.ERASE);
        boolean all = rule.stream().anyMatch(each -> each.when() == null && each.action() instanceof RuleAction.Cascade)
                && rule.stream().noneMatch(each -> each.action() instanceof RuleAction.Block);
        if (!all) {
            error("Removing through the entity manager goes round the rule: " + link.attribute()
                    + " removes children with their"
                    + " parent, or as orphans, and the rule of " + relation.get() + " is "
                    + String.join(", then ", rule.stream().map(Rule::written).toList())
                    + ". Take cascade REMOVE, ALL and orphanRemoval away.");
        } else if (rules.usualMode(relation.get().parent()) == Mode.SOFT_DELETE) {
            problems.add(new Problem(
                    false,
                    "Rows of " + relation.get().parent()
                            + " are soft-deleted, and removing one through the entity manager erases"
                            + " it with its children by " + link.attribute() + ". Delete it by a request.",
                    null));
        }
    }

    private Optional<Relation> relation(MappedLink link) {
        return rules.schema().relations().stream()
                .filter(each -> each.child().is(link.child()) && same(each.childColumns(), link.childColumns()))
                .findFirst();
    }

    private static boolean same(Collection<String> one, Collection<String> other) {
        Set<String> names = new TreeSet<>(String.CASE_INSENSITIVE_ORDER);
        names.addAll(one);
        return one.size() == other.size() && names.containsAll(other);
    }

    private Optional<Table> table(String written) {
        return rules.schema().tables().stream()
                .filter(table -> table.name().is(written))
                .findFirst();
    }

    private void error(String text) {
        problems.add(new Problem(true, text, null));
    }
}
