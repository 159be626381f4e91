// SPDX-License-Identifier: Apache-2.0
package io.vacancy.rules;

import io.vacancy.condition.ConditionText;
import io.vacancy.failure.MisuseException;
import io.vacancy.internal.argument.Arguments;
import io.vacancy.request.Limits;
import io.vacancy.request.Mode;
import io.vacancy.rules.RuleBook.RelationEntry;
import io.vacancy.schema.Schema;
import io.vacancy.schema.TimeEncoding;
import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Objects;
import java.util.function.Function;
import java.util.stream.Stream;
import org.jspecify.annotations.Nullable;

/**
 * Two rule books as one, such as a file and what the classes of an application say. Where both say something of the same, the
 * prevailing one holds.
 *
 * @param contradictions what both say differently, a sentence each
 */
public record CombinedRules(RuleBook book, List<String> contradictions) {

    public CombinedRules {
        Arguments.notNull(book, "book");
        contradictions = List.copyOf(Arguments.noneNull(contradictions, "contradictions"));
    }

    /**
     * Combines two rule books. What either of them protects stays protected: never deleted, never empty, personal.
     *
     * @param schema by which it is known that two names mean the same table or relation
     */
    public static CombinedRules of(RuleBook prevailing, RuleBook other, Schema schema) {
        Arguments.notNull(prevailing, "prevailing");
        Arguments.notNull(other, "other");
        Arguments.notNull(schema, "schema");
        List<String> contradictions = new ArrayList<>();
        Map<String, TableEntry> tables = new LinkedHashMap<>();
        List<TableEntry> twice = new ArrayList<>();
        for (TableEntry entry : prevailing.tables()) {
            // A table that appears twice in one book is that book's own error, told when it is fitted.
            if (tables.putIfAbsent(table(entry.table(), schema), entry) != null) {
                twice.add(entry);
            }
        }
        for (TableEntry entry : other.tables()) {
            tables.merge(
                    table(entry.table(), schema), entry, (said, too) -> new Tables(contradictions).both(said, too));
        }
        Map<String, RelationEntry> relations = new LinkedHashMap<>();
        List<RelationEntry> further = new ArrayList<>();
        for (RelationEntry entry : prevailing.relations()) {
            relations.merge(relation(entry.relation(), schema), entry, (said, too) -> completed(said, too, further));
        }
        for (RelationEntry entry : other.relations()) {
            relations.merge(relation(entry.relation(), schema), entry, (said, too) -> both(said, too, contradictions));
        }
        RuleBook book = new RuleBook(
                joined(List.copyOf(tables.values()), twice),
                joined(List.copyOf(relations.values()), further),
                joined(prevailing.questions(), other.questions()),
                joined(prevailing.approvals(), other.approvals()),
                joined(prevailing.deletions(), other.deletions()),
                prevailing.retention().equals(Retention.UNLIMITED) ? other.retention() : prevailing.retention(),
                prevailing.outbox() == null ? other.outbox() : prevailing.outbox());
        return new CombinedRules(book, contradictions);
    }

    private static String table(String written, Schema schema) {
        try {
            return schema.table(written).name().toString();
        } catch (MisuseException unknown) {
            return written.toLowerCase(Locale.ROOT);
        }
    }

    private static String relation(String written, Schema schema) {
        try {
            return schema.relation(written).name();
        } catch (MisuseException declaredOrUnknown) {
            return written.replace(" ", "").toLowerCase(Locale.ROOT);
        }
    }

    private static <T> List<T> joined(List<T> first, List<T> second) {
        return Stream.concat(first.stream(), second.stream()).toList();
    }

    /** One book may say of a relation in two entries what holds in either mode; the same twice is that book's own error. */
    private static RelationEntry completed(RelationEntry said, RelationEntry too, List<RelationEntry> further) {
        boolean twice = !(said.rules().isEmpty() || too.rules().isEmpty())
                || !(said.whenSoftDeleted().isEmpty() || too.whenSoftDeleted().isEmpty())
                || !(said.whenForgotten().isEmpty() || too.whenForgotten().isEmpty());
        if (twice) {
            further.add(too);
            return said;
        }
        return both(said, too, new ArrayList<>());
    }

    private static RelationEntry both(RelationEntry said, RelationEntry too, List<String> contradictions) {
        return new RelationEntry(
                said.relation(),
                rules(said, too, RelationEntry::rules, "", contradictions),
                rules(said, too, RelationEntry::whenSoftDeleted, " in a soft delete", contradictions),
                rules(said, too, RelationEntry::whenForgotten, " for persons who are forgotten", contradictions),
                said.permits().isEmpty() ? too.permits() : said.permits(),
                said.place());
    }

    private static List<Rule> rules(
            RelationEntry said,
            RelationEntry too,
            Function<RelationEntry, List<Rule>> part,
            String when,
            List<String> contradictions) {
        List<Rule> held = part.apply(said);
        List<Rule> overruled = part.apply(too);
        if (held.isEmpty() || overruled.isEmpty()) {
            return held.isEmpty() ? overruled : held;
        }
        if (!written(held).equalsIgnoreCase(written(overruled))) {
            contradictions.add("Relation " + said.relation() + when + ": " + written(held) + " holds, though "
                    + written(overruled) + " is said as well.");
        }
        return held;
    }

    private static String written(List<Rule> rules) {
        return String.join(
                ", ",
                rules.stream()
                        .map(rule ->
                                rule.written() + (rule.when() == null ? "" : " when " + ConditionText.of(rule.when())))
                        .toList());
    }

    /** What two books say of one table. */
    private record Tables(List<String> contradictions) {

        TableEntry both(TableEntry said, TableEntry too) {
            Map<String, TimeEncoding> times = new LinkedHashMap<>(too.times());
            times.putAll(said.times());
            Map<String, @Nullable Object> blank = new LinkedHashMap<>(too.blank());
            blank.putAll(said.blank());
            return new TableEntry(
                    said.table(),
                    one(said, "label", said.label(), too.label()),
                    one(said, "mode", said.mode(), too.mode()),
                    said.neverDeletedFrom() || too.neverDeletedFrom(),
                    said.nothingHidden() || too.nothingHidden(),
                    said.neverEmptied() || too.neverEmptied(),
                    Objects.requireNonNullElse(one(said, "limits", limits(said), limits(too)), Limits.NONE),
                    one(said, "marker", said.marker(), too.marker()),
                    auditColumns(said, too),
                    distinct(said.uniqueWhileActive(), too.uniqueWhileActive()),
                    one(said, "retention", said.retention(), too.retention()),
                    distinct(said.personal(), too.personal()),
                    blank,
                    distinct(said.archivedWith(), too.archivedWith()),
                    times,
                    said.ofPersons() || too.ofPersons(),
                    policy(said, too),
                    said.place());
        }

        private List<Rule> policy(TableEntry said, TableEntry too) {
            String held = said.forget().isEmpty() ? null : written(said.forget());
            one(said, "forget", held, too.forget().isEmpty() ? null : written(too.forget()));
            return held == null ? too.forget() : said.forget();
        }

        private static @Nullable Limits limits(TableEntry entry) {
            return entry.limits().equals(Limits.NONE) ? null : entry.limits();
        }

        private @Nullable AuditColumns auditColumns(TableEntry said, TableEntry too) {
            AuditColumns held = said.auditColumns();
            AuditColumns other = too.auditColumns();
            if (held == null || other == null) {
                return held == null ? other : held;
            }
            return new AuditColumns(
                    one(said, "changed-by", held.changedBy(), other.changedBy()),
                    one(said, "changed-at", held.changedAt(), other.changedAt()),
                    one(said, "version", held.version(), other.version()),
                    distinct(held.parents(), other.parents()));
        }

        private static <T> List<T> distinct(List<T> first, List<T> second) {
            return Stream.concat(first.stream(), second.stream()).distinct().toList();
        }

        private <T> @Nullable T one(TableEntry said, String what, @Nullable T held, @Nullable T overruled) {
            if (held == null || overruled == null) {
                return held == null ? overruled : held;
            }
            if (!held.toString().equalsIgnoreCase(overruled.toString())) {
                contradictions.add("Table " + said.table() + ": the " + what + " " + named(held) + " holds, though "
                        + named(overruled) + " is said as well.");
            }
            return held;
        }

        private static String named(Object value) {
            if (value instanceof Mode mode) {
                return mode.word();
            }
            if (value instanceof Limits limits && limits.atMost() != null) {
                return "of at most " + limits.atMost();
            }
            if (!(value instanceof Marker marker)) {
                return value.toString();
            }
            List<String> with = Stream.of(marker.who(), marker.why(), marker.receipt(), marker.restoredAt())
                    .filter(Objects::nonNull)
                    .toList();
            return marker.sign() + (with.isEmpty() ? "" : " with " + String.join(", ", with));
        }
    }
}
