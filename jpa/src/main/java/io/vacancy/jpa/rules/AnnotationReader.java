// SPDX-License-Identifier: Apache-2.0
package io.vacancy.jpa.rules;

import io.vacancy.condition.Condition;
import io.vacancy.failure.MisuseException;
import io.vacancy.jpa.internal.mapping.EntityMapping;
import io.vacancy.jpa.internal.mapping.MappedAttribute;
import io.vacancy.jpa.internal.mapping.MappedEntity;
import io.vacancy.jpa.internal.mapping.MappedLink;
import io.vacancy.request.Mode;
import io.vacancy.rulebook.sql.SearchCondition;
import io.vacancy.rules.Retention;
import io.vacancy.rules.Rule;
import io.vacancy.rules.RuleBook;
import io.vacancy.rules.RuleBook.RelationEntry;
import io.vacancy.rules.TableEntry;
import java.lang.annotation.Annotation;
import java.util.ArrayList;
import java.util.Collection;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.function.Predicate;
import java.util.regex.Matcher;
import java.util.regex.Pattern;
import org.jspecify.annotations.Nullable;

/** Reads the annotations of entities. For one use. */
final class AnnotationReader {

    private static final Pattern BRACES = Pattern.compile("\\{([^{}]*)}");

    private final EntityMapping mapping;
    private final Predicate<String> marked;
    private final Map<String, TableEntry> tables = new LinkedHashMap<>();
    private final Map<String, RelationEntry> relations = new LinkedHashMap<>();

    /** @param marked the tables that somebody else gives a marker */
    AnnotationReader(EntityMapping mapping, Predicate<String> marked) {
        this.mapping = mapping;
        this.marked = marked;
    }

    RuleBook book() {
        Collection<MappedEntity> rooted = mapping.entities().stream()
                .filter(entity -> !entity.severalTables())
                .toList();
        rooted.forEach(this::table);
        rooted.forEach(this::said);
        rooted.forEach(this::owned);
        return new RuleBook(
                List.copyOf(tables.values()),
                List.copyOf(relations.values()),
                List.of(),
                List.of(),
                List.of(),
                Retention.UNLIMITED,
                null);
    }

    /** Entities of one table, such as those of a class and its subclasses, say together what is said of it. */
    private void table(MappedEntity entity) {
        TableEntry entry = tables.getOrDefault(entity.table(), TableEntry.of(entity.table()));
        DeletionRules rules = entity.type().getAnnotation(DeletionRules.class);
        if (rules != null) {
            entry = said(rules, entity, entry);
        }
        String version = entity.versionColumn();
        if (version != null) {
            entry = entry.version(version);
        }
        List<String> personal = columns(entity, Personal.class).stream()
                .filter(column -> !tablesOwn(entity).personal().contains(column))
                .toList();
        if (!personal.isEmpty()) {
            entry = entry.personal(personal.toArray(String[]::new));
        }
        for (MappedAttribute attribute : entity.attributes()) {
            Personal said = attribute.one(Personal.class);
            if (said != null && !said.blank().isEmpty()) {
                for (String column : entity.columns(attribute.path())) {
                    entry = entry.blank(column, inBraces(said.blank(), entity));
                }
            }
        }
        String changedBy = column(entity, ChangedBy.class);
        String changedAt = column(entity, ChangedAt.class);
        if (changedBy != null || changedAt != null) {
            entry = entry.auditColumns(changedBy, changedAt);
        }
        MarkerReader markers = new MarkerReader(entity);
        if (markers.marker() != null) {
            entry = entry.marker(markers.marker());
        }
        if (!entry.equals(TableEntry.of(entity.table()))) {
            tables.put(entity.table(), entry);
        }
    }

    private TableEntry tablesOwn(MappedEntity entity) {
        return tables.getOrDefault(entity.table(), TableEntry.of(entity.table()));
    }

    private static TableEntry said(DeletionRules rules, MappedEntity entity, TableEntry before) {
        TableEntry entry = before;
        if (!rules.label().isBlank()) {
            entry = entry.label(inBraces(rules.label(), entity));
        }
        if (rules.softDelete()) {
            entry = entry.mode(Mode.SOFT_DELETE);
        }
        if (rules.never()) {
            entry = entry.neverDeleted();
        }
        if (rules.neverEmpty()) {
            entry = entry.neverEmpty();
        }
        return rules.atMost() > 0 ? entry.atMost(rules.atMost()) : entry;
    }

    /** A text whose attributes in braces are columns. */
    private static String inBraces(String written, MappedEntity entity) {
        Matcher attributes = BRACES.matcher(written);
        StringBuilder label = new StringBuilder();
        while (attributes.find()) {
            String name = attributes.group(1).strip();
            String column = entity.has(name) ? entity.columns(name).get(0) : name;
            attributes.appendReplacement(label, Matcher.quoteReplacement("{" + column + "}"));
        }
        attributes.appendTail(label);
        return label.toString();
    }

    private static List<String> columns(MappedEntity entity, Class<? extends Annotation> annotation) {
        List<String> columns = new ArrayList<>();
        for (MappedAttribute attribute : entity.attributes()) {
            if (attribute.has(annotation)) {
                columns.addAll(entity.columns(attribute.path()));
            }
        }
        return columns;
    }

    private static @Nullable String column(MappedEntity entity, Class<? extends Annotation> annotation) {
        List<String> columns = columns(entity, annotation);
        if (columns.size() > 1) {
            throw new MisuseException("Entity " + entity.name() + " has several attributes with @"
                    + annotation.getSimpleName() + ", and one is kept.");
        }
        return columns.isEmpty() ? null : columns.get(0);
    }

    private void said(MappedEntity entity) {
        for (MappedAttribute attribute : entity.attributes()) {
            List<ChildRule> rules = attribute.all(ChildRule.class);
            if (!rules.isEmpty()) {
                MappedLink link = entity.links().stream()
                        .filter(each -> attribute.of(entity.name()).equals(each.attribute()))
                        .findFirst()
                        .orElseThrow(() -> new MisuseException(
                                "@ChildRule is on " + attribute.of(entity.name()) + ", which refers to no other table.",
                                "Put it on a reference to a parent, or on a collection of children."));
                relation(link, rules, attribute.of(entity.name()));
            }
        }
    }

    private void relation(MappedLink link, List<ChildRule> rules, String where) {
        RelationEntry entry = new RelationEntry(
                link.written(),
                read(rules, link, where, false),
                read(rules, link, where, true),
                List.of(),
                List.of(),
                null);
        RelationEntry before = relations.putIfAbsent(link.written(), entry);
        if (before != null && !before.equals(entry)) {
            throw new MisuseException(
                    "@ChildRule says different things of " + link.written() + " on " + where
                            + " and on the other side.",
                    "Say it on one side.");
        }
    }

    private List<Rule> read(List<ChildRule> rules, MappedLink link, String where, boolean softDelete) {
        return rules.stream()
                .filter(rule -> rule.whenSoftDeleted() == softDelete)
                .map(rule -> new Rule(
                        rule(rule, where).action(),
                        rule.when().isBlank() ? null : condition(rule.when(), link.child())))
                .toList();
    }

    private static Rule rule(ChildRule rule, String where) {
        return switch (rule.then()) {
            case CASCADE -> Rule.cascade();
            case ERASE -> Rule.erase();
            case SET_NULL -> Rule.setNull();
            case BLANK -> Rule.blank();
            case LEAVE -> Rule.leave();
            case REASSIGN -> rule.to().isBlank() ? Rule.reassign() : Rule.reassignTo(rule.to());
            case BLOCK -> {
                if (rule.reason().isBlank()) {
                    throw new MisuseException(
                            "@ChildRule on " + where + " blocks without a reason.", "Say reason = \"…\".");
                }
                yield Rule.block(rule.reason());
            }
        };
    }

    /** Names are the child's attributes, else columns. */
    private Condition condition(String written, String table) {
        List<MappedEntity> children = mapping.entities().stream()
                .filter(entity -> !entity.severalTables() && entity.table().equals(table))
                .toList();
        return SearchCondition.read(written).replaceColumns(name -> children.stream()
                .filter(child -> child.has(name))
                .map(child -> child.columns(name).get(0))
                .findFirst()
                .orElse(name));
    }

    /** What has no life of its own is deleted with what it belongs to; it is not marked, since it has no marker. */
    private void owned(MappedEntity entity) {
        for (MappedLink link : entity.links()) {
            if (link.owned()) {
                TableEntry parent = tables.get(link.parent());
                boolean stays = marked.test(link.parent()) || (parent != null && parent.marker() != null);
                relations.putIfAbsent(
                        link.written(),
                        new RelationEntry(
                                link.written(),
                                List.of(Rule.cascade()),
                                stays ? List.of(Rule.leave()) : List.of(),
                                List.of(),
                                List.of(),
                                null));
            }
        }
    }
}
