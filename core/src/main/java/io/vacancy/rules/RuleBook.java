// SPDX-License-Identifier: Apache-2.0
package io.vacancy.rules;

import io.vacancy.failure.MisuseException;
import io.vacancy.failure.SourceLocation;
import io.vacancy.internal.argument.Arguments;
import io.vacancy.question.Question.Strength;
import io.vacancy.request.NamedDeletion;
import java.util.ArrayList;
import java.util.List;
import java.util.function.Consumer;
import java.util.function.UnaryOperator;
import java.util.regex.Pattern;
import org.jspecify.annotations.Nullable;

/**
 * The rules, labels, limits, questions and named deletions of an application as somebody wrote them, in Java
 * or in a file. Names are looked up when it is fitted to a database; see {@link ResolvedRules#fit}. Immutable.
 *
 * @param tables what it says of tables
 * @param relations what it says of relations
 * @param questions how strongly it wants to be asked
 * @param approvals what somebody else has to approve
 * @param deletions what it has names for
 * @param retention how long something is kept of the rows of tables that say nothing of it
 * @param outbox the source that events for other systems name, a URI reference (CloudEvents 1.0); null where there
 *     are none
 */
public record RuleBook(
        List<TableEntry> tables,
        List<RelationEntry> relations,
        List<QuestionEntry> questions,
        List<ApprovalEntry> approvals,
        List<NamedDeletion> deletions,
        Retention retention,
        @Nullable String outbox) {

    public RuleBook {
        Arguments.noneNull(tables, "tables");
        Arguments.noneNull(relations, "relations");
        Arguments.noneNull(questions, "questions");
        Arguments.noneNull(approvals, "approvals");
        Arguments.noneNull(deletions, "deletions");
        Arguments.notNull(retention, "retention");
        tables = List.copyOf(tables);
        relations = List.copyOf(relations);
        questions = List.copyOf(questions);
        approvals = List.copyOf(approvals);
        deletions = List.copyOf(deletions);
    }

    /**
     * How strong the question is for some deletions. Of all entries that apply the strongest holds; where none
     * applies, every row of a table wants the table's name, and anything else a yes or a no.
     *
     * @param table only for rows selected from this table, or null for any
     * @param above only if more rows than this would be deleted in total, or null for any number
     * @param everyRow only if it takes every row of the table
     * @param place where it stands, or null if it was written in Java
     */
    public record QuestionEntry(
            @Nullable String table,
            @Nullable Long above,
            boolean everyRow,
            Strength strength,
            @Nullable SourceLocation place) {}

    /**
     * What is said of a relation.
     *
     * @param relation its written form; {@code child.column -> parent.column} declares one that the database
     *     has not
     * @param rules tried in order; a row for which none holds follows what the schema declares
     * @param whenSoftDeleted the same for parents that are soft-deleted; empty where the rules hold for them too,
     *     but for links, which stay then
     * @param whenForgotten the same where a person is forgotten whom the parent belongs to; empty where the rules tell
     *     whether the child rows do as well
     * @param permits the words of the rules that a request may put in their place
     * @param place where it stands, or null if it was written in Java
     */
    public record RelationEntry(
            String relation,
            List<Rule> rules,
            List<Rule> whenSoftDeleted,
            List<Rule> whenForgotten,
            List<String> permits,
            @Nullable SourceLocation place) {
        public RelationEntry {
            rules = List.copyOf(rules);
            whenSoftDeleted = List.copyOf(whenSoftDeleted);
            whenForgotten = List.copyOf(whenForgotten);
            permits = List.copyOf(permits);
        }
    }

    private static final RuleBook EMPTY =
            new RuleBook(List.of(), List.of(), List.of(), List.of(), List.of(), Retention.UNLIMITED, null);

    /** A rule book that says nothing: everything follows what the schema declares. */
    public static RuleBook empty() {
        return EMPTY;
    }

    /** Writes a rule book in Java. */
    public static RuleBook build(Consumer<Builder> writing) {
        Arguments.notNull(writing, "writing");
        Builder builder = new Builder();
        writing.accept(builder);
        return builder.build();
    }

    /** A rule book being written. */
    public static final class Builder {

        /** The characters of a URI reference (RFC 3986, section 2). */
        private static final Pattern URI_REFERENCE =
                Pattern.compile("(?:[A-Za-z0-9._~:/?#\\[\\]@!$&'()*+,;=-]|%[0-9A-Fa-f]{2})+");

        private final List<TableEntry> tables = new ArrayList<>();
        private final List<RelationEntry> relations = new ArrayList<>();
        private final List<QuestionEntry> questions = new ArrayList<>();
        private final List<ApprovalEntry> approvals = new ArrayList<>();
        private final List<NamedDeletion> deletions = new ArrayList<>();
        private Retention retention = Retention.UNLIMITED;
        private @Nullable String outbox;

        private Builder() {}

        /** Says something of a table: {@code table("boat", t -> t.label("{name}"))}. */
        public Builder table(String table, UnaryOperator<TableEntry> entry) {
            tables.add(entry.apply(TableEntry.of(table)));
            return this;
        }

        /** Says by which rules child rows of a relation follow, tried in order. */
        public Builder relation(String relation, Rule... rules) {
            relations.add(new RelationEntry(relation, List.of(rules), List.of(), List.of(), List.of(), null));
            return this;
        }

        /**
         * The same, and which rules a request may put in their place.
         *
         * @param permits words of rules, such as {@code cascade}
         */
        public Builder relation(String relation, List<String> permits, Rule... rules) {
            relations.add(new RelationEntry(relation, List.of(rules), List.of(), List.of(), permits, null));
            return this;
        }

        /**
         * Says what becomes of child rows whose parent is soft-deleted: {@code cascade} where they are marked too,
         * {@code erase} where they go for good, {@code leave}, {@code block}, or a change of their link.
         */
        public Builder whenSoftDeleted(String relation, Rule... rules) {
            relations.add(new RelationEntry(relation, List.of(), List.of(rules), List.of(), List.of(), null));
            return this;
        }

        /**
         * Says of a relation what becomes of child rows where a person is forgotten whom their parent belongs to:
         * {@code cascade} where they belong to the person as well, so that their own table tells; {@code block}, {@code
         * set-null} or {@code leave} where they do not.
         */
        public Builder whenForgotten(String relation, Rule... rules) {
            relations.add(new RelationEntry(relation, List.of(), List.of(), List.of(rules), List.of(), null));
            return this;
        }

        /** Says how strong the question is if more than so many rows would be deleted in total. */
        public Builder question(long above, Strength strength) {
            questions.add(new QuestionEntry(null, above, false, strength, null));
            return this;
        }

        /** Says how strong the question is if every row of a table would go. */
        public Builder questionForEveryRow(Strength strength) {
            questions.add(new QuestionEntry(null, null, true, strength, null));
            return this;
        }

        /** Says how strong the question is for rows of a table. */
        public Builder question(String table, Strength strength) {
            questions.add(new QuestionEntry(table, null, false, strength, null));
            return this;
        }

        /**
         * Says what is carried out only once somebody else has approved it:
         * {@code approval(ApprovalEntry.ANY.table("boat").above(100))}.
         */
        public Builder approval(ApprovalEntry entry) {
            approvals.add(Arguments.notNull(entry, "entry"));
            return this;
        }

        /**
         * Gives a deletion a name: {@code deletion("old-moorings", d -> d.from("mooring").where(…))}.
         */
        public Builder deletion(String name, UnaryOperator<NamedDeletion> entry) {
            deletions.add(entry.apply(NamedDeletion.of(name)));
            return this;
        }

        /** Says how long something is kept of the rows of tables that say nothing of it. */
        public Builder retention(Retention time) {
            retention = time;
            return this;
        }

        /**
         * Has an event for other systems written with everything that is done; see {@link io.vacancy.Outbox}.
         *
         * @param source what the events name as their source, a URI reference such as {@code /harbour/office}
         */
        public Builder outbox(String source) {
            if (!URI_REFERENCE.matcher(source).matches()) {
                throw new MisuseException(
                        "The outbox's source \"" + source + "\" is no URI.",
                        "Write one, such as /harbour/office or https://harbour.example/office.");
            }
            outbox = source;
            return this;
        }

        private RuleBook build() {
            return new RuleBook(tables, relations, questions, approvals, deletions, retention, outbox);
        }
    }
}
