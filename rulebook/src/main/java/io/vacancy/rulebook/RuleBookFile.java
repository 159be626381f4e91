// SPDX-License-Identifier: Apache-2.0
package io.vacancy.rulebook;

import io.vacancy.failure.Problem;
import io.vacancy.failure.RuleBookException;
import io.vacancy.internal.argument.Arguments;
import io.vacancy.internal.text.FileTrouble;
import io.vacancy.question.Question.Strength;
import io.vacancy.request.DeletionSchedule;
import io.vacancy.request.NamedDeletion;
import io.vacancy.request.OperationKind;
import io.vacancy.request.Order;
import io.vacancy.rulebook.sql.SearchCondition;
import io.vacancy.rules.ApprovalEntry;
import io.vacancy.rules.Retention;
import io.vacancy.rules.RuleBook;
import io.vacancy.rules.RuleBook.QuestionEntry;
import io.vacancy.rules.RuleBook.RelationEntry;
import io.vacancy.rules.TableEntry;
import io.vacancy.schema.ValueKind;
import java.io.IOException;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.List;
import java.util.Locale;
import java.util.function.Function;
import org.jspecify.annotations.Nullable;

/** Reads a rule book from YAML (1.2), {@code version: 1}. */
public final class RuleBookFile {

    private static final List<String> PARTS =
            List.of("version", "tables", "relations", "questions", "approvals", "deletions", "retention", "outbox");
    private static final List<String> QUESTION_KEYS = List.of("above", "every-row", "table", "type");
    private static final List<String> APPROVAL_KEYS = List.of("above", "table", "operation");
    private static final List<String> DELETION_KEYS = List.of(
            "table",
            "where",
            "parameters",
            "limit",
            "order-by",
            "because",
            "every",
            "window",
            "batch",
            "at-most",
            "at-most-in-all",
            "at-most-percent");
    private static final List<String> TYPES =
            Arrays.stream(Strength.values()).map(Strength::word).toList();

    /** In bytes. */
    private static final long LONGEST = 8_000_000;

    private RuleBookFile() {}

    /**
     * A rule book as far as it could be read.
     *
     * @param book without the entries that are wrong
     * @param problems what is wrong with it as it is written; that it fits a database is another matter
     */
    public record Reading(RuleBook book, List<Problem> problems) {

        public Reading {
            Arguments.notNull(book, "book");
            problems = List.copyOf(Arguments.noneNull(problems, "problems"));
        }
    }

    /**
     * Reads a file.
     *
     * @throws RuleBookException if it cannot be read or is not a rule book, with every error, file and line
     */
    public static RuleBook read(Path file) {
        return whole(reading(file));
    }

    /**
     * Reads text.
     *
     * @param name what it is called in messages, such as the file's name
     * @throws RuleBookException if it is not a rule book, with every error and its line
     */
    public static RuleBook read(String text, String name) {
        return whole(reading(text, name));
    }

    private static RuleBook whole(Reading reading) {
        if (!reading.problems().isEmpty()) {
            throw new RuleBookException(reading.problems());
        }
        return reading.book();
    }

    /**
     * Reads what can be read of a file.
     *
     * @throws RuleBookException if it cannot be read at all, or is not YAML
     */
    public static Reading reading(Path file) {
        Arguments.notNull(file, "file");
        try {
            if (Files.size(file) > LONGEST) {
                throw new RuleBookException(
                        "The rule book " + file + " has more than " + LONGEST + " bytes.", "Is it the right file?");
            }
            return reading(
                    Files.readString(file, StandardCharsets.UTF_8),
                    file.getFileName().toString());
        } catch (IOException failed) {
            throw new RuleBookException(
                    "The rule book " + file + " cannot be read: " + FileTrouble.message(failed) + ".", null);
        }
    }

    /**
     * Reads what can be read of a text.
     *
     * @throws RuleBookException if it is not YAML
     */
    public static Reading reading(String text, String name) {
        Arguments.notNull(text, "text");
        Arguments.notNull(name, "name");
        Yaml root = Yaml.parse(text, name);
        return new Reading(book(root), root.problems());
    }

    private static RuleBook book(Yaml root) {
        root.trying(
                () -> {
                    root.onlyKeys(PARTS);
                    return version(root);
                },
                "");
        List<TableEntry> tables = each(root, "tables", TableForm::read);
        List<RelationEntry> relations = each(root, "relations", RelationForm::read);
        List<NamedDeletion> deletions = each(root, "deletions", RuleBookFile::deletion);
        List<QuestionEntry> questions = new ArrayList<>();
        root.with("questions", questions, (all, asked) -> {
            asked.items().forEach(entry -> entry.trying(() -> all.add(question(entry)), false));
            return all;
        });
        List<ApprovalEntry> approvals = new ArrayList<>();
        root.with("approvals", approvals, (all, needed) -> {
            needed.items().forEach(entry -> entry.trying(() -> all.add(approval(entry)), false));
            return all;
        });
        Retention retention = root.with("retention", Retention.UNLIMITED, (none, kept) -> TableForm.retention(kept));
        String outbox = root.with(
                "outbox",
                "",
                (none, source) -> source.as(text -> String.valueOf(
                        RuleBook.build(book -> book.outbox(source.text())).outbox())));
        return new RuleBook(
                tables, relations, questions, approvals, deletions, retention, outbox.isEmpty() ? null : outbox);
    }

    private static String version(Yaml root) {
        Yaml version = root.get("version");
        if (version == null || !version.text().equals("1")) {
            throw (version == null ? root : version)
                    .wrong("The rule book says no version that is known.", "Its first line is \"version: 1\".");
        }
        return version.text();
    }

    /** What is read of the entries below a key, without those that are wrong. */
    private static <T> List<T> each(Yaml root, String key, Function<Yaml.Entry, T> reader) {
        List<T> read = new ArrayList<>();
        List<Yaml.Entry> entries = root.trying(() -> root.entries(key), List.of());
        for (Yaml.Entry entry : entries) {
            int before = root.problems().size();
            entry.value()
                    .trying(
                            () -> {
                                T one = reader.apply(entry);
                                return root.problems().size() == before && read.add(one);
                            },
                            false);
        }
        return read;
    }

    /** {@code {above: 100, type: count}}. */
    private static QuestionEntry question(Yaml written) {
        written.onlyKeys(QUESTION_KEYS);
        Yaml table = written.get("table");
        Yaml above = written.get("above");
        Yaml everyRow = written.get("every-row");
        Yaml type = written.get("type");
        if (type == null) {
            throw written.wrong("A question says of which type it is.", "Write type: " + String.join("|", TYPES) + ".");
        }
        Strength strength = Arrays.stream(Strength.values())
                .filter(known -> known.word().equals(type.text()))
                .findFirst()
                .orElseThrow(() -> type.unknown("type of question", type.text(), TYPES));
        return new QuestionEntry(
                table == null ? null : table.text(),
                above == null ? null : above.whole(),
                everyRow != null && everyRow.truth(),
                strength,
                written.place());
    }

    /** {@code {above: 100, table: boat, operation: erase}}, any of them. */
    private static ApprovalEntry approval(Yaml written) {
        written.onlyKeys(APPROVAL_KEYS);
        Yaml table = written.get("table");
        Yaml above = written.get("above");
        Yaml operation = written.get("operation");
        if (table == null && above == null && operation == null) {
            throw written.wrong(
                    "An approval says what it is for.",
                    "Write above: 100, table: boat or operation: purge, or several.");
        }
        return new ApprovalEntry(
                table == null ? null : table.text(),
                operation == null ? null : operation(operation),
                above == null ? null : above.whole(),
                written.place());
    }

    private static OperationKind operation(Yaml written) {
        return Arrays.stream(OperationKind.values())
                .filter(known -> known.word().equals(written.text()))
                .findFirst()
                .orElseThrow(() -> written.unknown(
                        "operation",
                        written.text(),
                        Arrays.stream(OperationKind.values())
                                .map(OperationKind::word)
                                .toList()));
    }

    private static NamedDeletion deletion(Yaml.Entry entry) {
        Yaml written = entry.value();
        written.onlyKeys(DELETION_KEYS);
        Yaml table = written.get("table");
        Yaml where = written.get("where");
        if (table == null || where == null) {
            throw written.wrong(
                    "Deletion " + entry.key() + " does not say "
                            + (table == null ? "which table it is about." : "which rows."),
                    "Give it table and where.");
        }
        NamedDeletion deletion = NamedDeletion.of(entry.key())
                .at(entry.place())
                .from(table.text())
                .where(where.as(SearchCondition::read))
                .limits(TableForm.limits(written));
        for (Yaml.Entry parameter : written.entries("parameters")) {
            deletion = deletion.parameter(parameter.key(), kind(parameter.value()));
        }
        Yaml because = written.get("because");
        Yaml limit = written.get("limit");
        Yaml orderBy = written.get("order-by");
        List<Order> order = new ArrayList<>();
        if (orderBy != null) {
            orderBy.items().forEach(by -> order.add(by.as(Order::read)));
        }
        if (limit != null || !order.isEmpty()) {
            deletion = deletion.first(limit == null ? null : limit.whole(), order.toArray(Order[]::new));
        }
        deletion = because == null ? deletion : deletion.because(because.text());
        DeletionSchedule schedule = schedule(entry.key(), written);
        return schedule == null ? deletion : deletion.schedule(schedule);
    }

    /** {@code every: "03:00"}, {@code window: "22:00-05:30"}, {@code batch: 5000}. */
    private static @Nullable DeletionSchedule schedule(String name, Yaml written) {
        Yaml every = written.get("every");
        Yaml window = written.get("window");
        Yaml batch = written.get("batch");
        if (every == null) {
            Yaml idle = window == null ? batch : window;
            if (idle != null) {
                throw idle.wrong(
                        "Deletion " + name + " says how it works by itself, and not when.",
                        "Give it every, such as every: \"03:00\", or leave window and batch out.");
            }
            return null;
        }
        if (!written.entries("parameters").isEmpty()) {
            throw every.wrong(
                    "Deletion " + name + " recurs by itself and has parameters, which nobody would give.",
                    "Write a condition without parameters, such as left_on < CURRENT_DATE - INTERVAL '2' YEAR.");
        }
        return every.as(text -> new DeletionSchedule(
                text, window == null ? null : window.text(), batch == null ? null : batch.whole()));
    }

    private static ValueKind kind(Yaml written) {
        List<String> words =
                Arrays.stream(ValueKind.values()).map(RuleBookFile::word).toList();
        return Arrays.stream(ValueKind.values())
                .filter(kind -> word(kind).equals(written.text()))
                .findFirst()
                .orElseThrow(() -> written.unknown("kind of value", written.text(), words));
    }

    private static String word(ValueKind kind) {
        return kind.name().toLowerCase(Locale.ROOT);
    }
}
