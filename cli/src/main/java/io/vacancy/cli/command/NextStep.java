// SPDX-License-Identifier: Apache-2.0
package io.vacancy.cli.command;

import io.vacancy.archive.ReceiptId;
import io.vacancy.cli.screen.Screen;
import io.vacancy.internal.text.Secrets;
import io.vacancy.jobs.watch.Job;
import io.vacancy.preview.Blocker;
import io.vacancy.preview.Preview;
import io.vacancy.request.OperationKind;
import io.vacancy.schema.Relation;
import io.vacancy.schema.Schema;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.Iterator;
import java.util.List;
import java.util.Objects;
import java.util.Set;
import java.util.regex.Pattern;
import java.util.stream.Collectors;
import org.jspecify.annotations.Nullable;

/** The command that mostly follows an output, to be copied as it is. */
final class NextStep {

    private static final Pattern PLAIN = Pattern.compile("[\\w@%+=:,./-]+");
    private static final Set<String> SHOWING = Set.of("--missing", "--skipped", "--rows", "--raw");
    private static final Set<String> SHOWING_WITH_VALUE = Set.of("--rows-of", "--data-to", "--diagram", "--format");

    private static final Set<String> ANSWERING = Set.of("--yes", "--as-job");

    private NextStep() {}

    /** Deleting what was previewed, and only that; null where the words cannot be said twice. */
    static @Nullable String delete(List<String> previewed, String fingerprint) {
        List<String> words = new ArrayList<>();
        for (Iterator<String> each = previewed.iterator(); each.hasNext(); ) {
            String word = each.next();
            String name = word.replaceFirst("=.*", "");
            if (SHOWING_WITH_VALUE.contains(name) && name.equals(word) && each.hasNext()) {
                each.next();
            } else if (!SHOWING.contains(name) && !SHOWING_WITH_VALUE.contains(name)) {
                words.add(words.isEmpty() ? "delete" : word);
            }
        }
        // What came from standard input is gone.
        return words.contains("-") ? null : written(words) + " --fingerprint " + fingerprint;
    }

    /** Looking again with a rule that would unblock the first of what blocks; null where none may be asked for. */
    static @Nullable String unblocking(List<String> given, Preview preview, Schema schema) {
        if (preview.operation() == OperationKind.MERGE) {
            return deletingDuplicates(given, preview, schema);
        }
        return preview.state() != Preview.State.BLOCKED || given.contains("-")
                ? null
                : preview.blockers().stream()
                        .filter(blocker -> !blocker.permittedRules().isEmpty())
                        .findFirst()
                        .map(blocker -> previewing(
                                given,
                                "--rule",
                                blocker.relation() + "="
                                        + blocker.permittedRules().get(0)))
                        .orElse(null);
    }

    /** The same preview of a merge, with those rows deleted that a unique key could keep from being moved. */
    private static @Nullable String deletingDuplicates(List<String> given, Preview preview, Schema schema) {
        return preview.blockers().stream()
                .map(Blocker::relation)
                .filter(Objects::nonNull)
                .filter(relation -> !given.contains(relation) && mayCollide(schema.relation(relation), schema))
                .findFirst()
                .map(relation -> previewing(given, "--delete-duplicates", relation))
                .orElse(null);
    }

    /** Looking again, with one option more. */
    private static String previewing(List<String> given, String option, String value) {
        List<String> words = new ArrayList<>(given);
        words.set(0, "preview");
        words.removeIf(ANSWERING::contains);
        words.add(option);
        words.add(value);
        return written(words);
    }

    private static boolean mayCollide(Relation relation, Schema schema) {
        return schema.table(relation.child()).keys().stream()
                .anyMatch(key -> relation.childColumns().stream().anyMatch(key::contains));
    }

    /** The same once more with one option said, or said anew. */
    static String again(List<String> given, String option, @Nullable String value) {
        List<String> words = new ArrayList<>();
        for (Iterator<String> each = given.iterator(); each.hasNext(); ) {
            String word = each.next();
            if (word.equals(option) && value != null && each.hasNext()) {
                each.next();
            } else if (!word.startsWith(option + "=")) {
                words.add(word);
            }
        }
        words.add(option);
        if (value != null) {
            words.add(value);
        }
        return written(words);
    }

    /** Bringing back what was done under a receipt. */
    static String restore(ReceiptId receipt, List<String> database) {
        List<String> words = new ArrayList<>(List.of("restore", receipt.toString()));
        words.addAll(database);
        return written(words);
    }

    /** Looking at the relations by a rule book. */
    static String relations(List<String> database, Path rules) {
        List<String> words = new ArrayList<>(List.of("relations"));
        words.addAll(database);
        if (!words.contains("--rules")) {
            words.addAll(List.of("--rules", rules.toString()));
        }
        return written(words);
    }

    /** Any other, on the same database. */
    static String of(List<String> command, List<String> database) {
        List<String> words = new ArrayList<>(command);
        words.addAll(database);
        return written(words);
    }

    /** What mostly follows when a job stands as it does. */
    static void after(Job job, DatabaseOptions database, Screen screen) {
        List<String> given = database.given();
        switch (job.state()) {
            case PAUSED -> screen.next("To go on with it:", of(List.of("jobs", "resume", job.name()), given));
            case DONE, FAILED, CANCELLED -> {
                if (job.receipt() != null) {
                    screen.next("To restore what is archived:", restore(job.receipt(), given));
                }
            }
            default -> screen.next("To see how far it is:", of(List.of("jobs", "watch", job.name()), given));
        }
    }

    /** As a shell takes them, without what an address holds of secrets. */
    private static String written(List<String> words) {
        return "vacancy "
                + words.stream()
                        .map(word -> word.contains("jdbc:") ? Secrets.hidden(word) : word)
                        .map(word -> PLAIN.matcher(word).matches() ? word : "'" + word.replace("'", "'\\''") + "'")
                        .collect(Collectors.joining(" "));
    }
}
