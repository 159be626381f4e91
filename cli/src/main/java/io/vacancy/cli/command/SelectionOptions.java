// SPDX-License-Identifier: Apache-2.0
package io.vacancy.cli.command;

import io.vacancy.Vacancy;
import io.vacancy.archive.ReceiptId;
import io.vacancy.cli.rows.KeyFile;
import io.vacancy.cli.screen.Screen;
import io.vacancy.condition.Condition;
import io.vacancy.failure.MisuseException;
import io.vacancy.internal.text.FileTrouble;
import io.vacancy.json.JsonReader;
import io.vacancy.request.KeyList;
import io.vacancy.request.MergeStep;
import io.vacancy.request.Mode;
import io.vacancy.request.OnBlocked;
import io.vacancy.request.Order;
import io.vacancy.request.PersonStep;
import io.vacancy.request.ReplacementStep;
import io.vacancy.request.Request;
import io.vacancy.request.SelectionStep;
import io.vacancy.rulebook.sql.SearchCondition;
import io.vacancy.schema.Table;
import java.io.IOException;
import java.io.InputStreamReader;
import java.io.Reader;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.time.Duration;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.List;
import java.util.Map;
import java.util.function.Function;
import java.util.regex.Pattern;
import org.jspecify.annotations.Nullable;
import picocli.CommandLine.Mixin;
import picocli.CommandLine.Option;
import picocli.CommandLine.Parameters;

/** Which rows of which table, and what refuses them. */
final class SelectionOptions {

    private static final Pattern RECEIPT = Pattern.compile("[0-9a-fA-F]{8}(-[0-9a-fA-F]{4}){3}-[0-9a-fA-F]{12}");

    private static final Pattern PART_OF_RECEIPT = Pattern.compile("[0-9a-fA-F]{8}[0-9a-fA-F-]*");

    @Parameters(
            index = "0",
            arity = "0..1",
            paramLabel = "TABLE|@NAME",
            description = "The table, with its schema outside the default one; or @ and the name of a deletion of the"
                    + " rule book.")
    private String table = "";

    @Option(
            names = "--key",
            paramLabel = "K",
            description = "The key of a row, repeatable; for a key of several columns NAME=VALUE,NAME=VALUE.")
    private List<String> keys = new ArrayList<>();

    @Option(
            names = "--keys-from",
            paramLabel = "FILE|-",
            description =
                    "Keys from a file or standard input: one a line, or CSV whose header names the key's columns.")
    private @Nullable String keysFrom;

    @Option(
            names = "--match",
            paramLabel = "COL=VALUE",
            description = "The one row whose column has this value; repeatable for several columns.")
    private List<String> matches = new ArrayList<>();

    @Option(
            names = "--where",
            paramLabel = "CONDITION",
            description = "The rows for which this holds: an SQL search condition over the table's own columns and, by"
                    + " EXISTS over a relation, related rows; or a CQL2 JSON object. Narrows a selection by keys.")
    private @Nullable String where;

    @Option(names = "--every-row", description = "Every row there is.")
    private boolean everyRow;

    @Option(names = "--at-once", description = "With --every-row: empty the table as a whole, if nothing refers to it.")
    private boolean atOnce;

    @Option(names = "--limit", paramLabel = "N", description = "Only the first N of them.")
    private @Nullable Long limit;

    @Option(
            names = "--order-by",
            paramLabel = "COL",
            description = "What first means: a column, or \"COL desc\"; repeatable. The key unless given.")
    private List<String> orderBy = new ArrayList<>();

    @Mixin
    private final DeletionParameters parameters = new DeletionParameters();

    @Mixin
    private final LimitOptions limits = new LimitOptions();

    @Option(
            names = "--on-blocked",
            paramLabel = "refuse|skip",
            description = "What happens where rows are blocked: refuse (the default), or skip the selected rows"
                    + " that are blocked and delete the rest.")
    private String onBlocked = "refuse";

    @Option(
            names = "--rule",
            paramLabel = "RELATION=RULE",
            description = "A rule for this deletion, as far as the rule book permits it: cascade, set-null,"
                    + " reassign:KEY, blank, block:REASON or leave; repeatable.")
    private List<String> rules = new ArrayList<>();

    @Option(names = "--because", paramLabel = "WHY", description = "Why; it stands on the receipt.")
    private @Nullable String because;

    @Option(
            names = "--id",
            paramLabel = "TEXT",
            description = "An identity of your own for this request: given again, it returns the first receipt and"
                    + " changes nothing.")
    private @Nullable String id;

    @Option(
            names = "--wait",
            paramLabel = "SECONDS",
            description =
                    "How long to wait for rows that somebody else holds; as long as the database does unless given.")
    private @Nullable Integer wait;

    /** Refuses what cannot be meant, before any database is opened. */
    void check() {
        if (table.isEmpty()) {
            throw new MisuseException(
                    "No table is named.",
                    "Write its name first, as in boat --key 17, or @ and the name of a deletion of the rule book.");
        }
        if (table.equals("@")) {
            throw new MisuseException("No deletion is named behind @.", "Write it as @old-moorings.");
        }
        List<String> given = new ArrayList<>();
        if (named()) {
            given.add(table);
        }
        if (!keys.isEmpty()) {
            given.add("--key");
        }
        if (keysFrom != null) {
            given.add("--keys-from");
        }
        if (!matches.isEmpty()) {
            given.add("--match");
        }
        if (everyRow) {
            given.add("--every-row");
        }
        if (given.isEmpty() && where == null) {
            throw new MisuseException(
                    "Nothing of " + table + " is selected, and nothing never means everything.",
                    "Say which rows are meant: --key K, --keys-from FILE, --match COL=VALUE, --where CONDITION, or"
                            + " --every-row.");
        }
        if (given.size() > 1) {
            throw new MisuseException(
                    "Several selections are given: " + String.join(" and ", given) + ".",
                    "Give one of them; --where may narrow it.");
        }
        if (everyRow && where != null) {
            throw new MisuseException(
                    "--every-row and --where contradict each other.", "Give --where alone to select by a condition.");
        }
        if (atOnce && !everyRow) {
            throw new MisuseException("--at-once empties a table, and --every-row is not given.");
        }
        if (parameters.given() && !named()) {
            throw new MisuseException("--with is for the named deletions of a rule book, and " + table + " is none.");
        }
        if (wait != null && wait < 0) {
            throw new MisuseException("--wait must be 0 or more seconds, not " + wait + ".");
        }
        if (Arrays.stream(OnBlocked.values()).noneMatch(known -> known.word().equals(onBlocked))) {
            throw new MisuseException("--on-blocked " + onBlocked + " is unknown.", "Give refuse or skip.");
        }
        limits.limits();
    }

    /** The same, with what is to be done to the rows. */
    void check(ModeOptions mode) {
        check();
        mode.check();
        String other = mode.otherThanDeleting();
        if (named() && other != null) {
            throw new MisuseException(
                    "The named deletions of a rule book delete, and " + other + ".",
                    "Select by --key, --match, --where or --every-row.");
        }
        String otherThanErasing = mode.mode() == Mode.SOFT_DELETE ? "--soft marks them" : other;
        if (atOnce && otherThanErasing != null) {
            throw new MisuseException(
                    "--at-once erases the rows, and " + otherThanErasing + ".", "Leave one of them out.");
        }
    }

    /** The receipt that stands in the place of a table, or null. */
    @Nullable
    ReceiptId receipt() {
        return keys.isEmpty() ? receiptWithKeys() : null;
    }

    /** Whether any row is said. */
    boolean given() {
        return !table.isEmpty()
                || !keys.isEmpty()
                || keysFrom != null
                || !matches.isEmpty()
                || where != null
                || everyRow;
    }

    /** The keys that are given, as texts. */
    List<String> keys() {
        return List.copyOf(keys);
    }

    static boolean isReceipt(String written) {
        return RECEIPT.matcher(written).matches();
    }

    /** Refuses the beginning of a receipt, which nobody may mean as a table's name. */
    void checkReceipt(String command) {
        if (table.isEmpty()) {
            throw new MisuseException(
                    "Neither a receipt nor a table is named.",
                    "Write vacancy " + command + " RECEIPT, or vacancy " + command
                            + " TABLE --key K; vacancy archive lists" + " receipts.");
        }
        boolean alone = keys.isEmpty() && keysFrom == null && matches.isEmpty() && where == null && !everyRow;
        if (alone && PART_OF_RECEIPT.matcher(table).matches() && !isReceipt(table)) {
            throw new MisuseException(
                    "\"" + table + "\" is a part of a receipt at most.",
                    "Write all 36 characters of it; vacancy archive lists receipts.");
        }
    }

    /** The same, whatever keys are given with it. */
    @Nullable
    ReceiptId receiptWithKeys() {
        boolean alone = keysFrom == null && matches.isEmpty() && where == null && !everyRow;
        return alone && RECEIPT.matcher(table).matches() ? ReceiptId.of(table) : null;
    }

    boolean named() {
        return table.startsWith("@");
    }

    /** The request to delete, whose names and values are looked up in the database. */
    Request request(Vacancy vacancy, ModeOptions mode) {
        if (atOnce) {
            return mode.in(settled(Request.truncate(table)));
        }
        if (mode.forgets()) {
            return mode.in(narrowed(person()));
        }
        Request selected = named() ? named(vacancy, mode.mode()) : selected(vacancy, mode.of(table));
        return mode.in(narrowed(selected));
    }

    /** Whether rows that are blocked are left out. */
    boolean skips() {
        return onBlocked.equals(OnBlocked.SKIP.word());
    }

    boolean atOnce() {
        return atOnce;
    }

    /** Whether one row is selected, by its key or by values of it. */
    private boolean oneRow() {
        return where == null && !named() && (keys.size() == 1 || !matches.isEmpty());
    }

    private Request person() {
        PersonStep step = Request.forget(table);
        if (!oneRow()) {
            throw new MisuseException(
                    "One person is forgotten at a time.", "Select the row by one --key, or by --match.");
        }
        return matches.isEmpty() ? step.key(keys.get(0)) : step.matching(NamedValues.read(matches, "--match"));
    }

    /** Refuses what selects no single person by its key. */
    void checkPerson() {
        if (!oneRow() || keys.isEmpty() || receiptWithKeys() != null) {
            throw new MisuseException(
                    "--person is for one person, by its key.", "Write vacancy purge TABLE --key K --person.");
        }
    }

    /** What purges everything that is archived of the person with the given key. */
    List<Request> archivedOfPerson(Vacancy vacancy) {
        return vacancy.persons().archived(table, keys.get(0));
    }

    /** The person by table and key, for people. */
    String personNamed() {
        return table + " " + keys.get(0);
    }

    boolean destroyKey(Vacancy vacancy) {
        return vacancy.persons().destroyKey(table, keys.get(0));
    }

    /** The request to merge the selected row. */
    Request request(MergeOptions merge, ModeOptions mode) {
        MergeStep step = Request.merge(table);
        if (!oneRow()) {
            throw new MisuseException("One row is merged at a time.", "Select it by one --key, or by --match.");
        }
        MergeStep.Row row =
                matches.isEmpty() ? step.key(keys.get(0)) : step.matching(NamedValues.read(matches, "--match"));
        return mode.in(narrowed(merge.in(row)));
    }

    /** The request of another operation. */
    Request request(Vacancy vacancy, Function<String, SelectionStep> operation) {
        if (named() || atOnce) {
            throw new MisuseException(
                    (named() ? "A named deletion" : "--at-once") + " is for what is deleted.",
                    "Select by --key, --match, --where or --every-row.");
        }
        return narrowed(selected(vacancy, operation.apply(table)));
    }

    /** The row that a successor takes the place of. */
    ReplacementStep.Row row() {
        ReplacementStep step = Request.replace(table);
        if (keys.size() == 1 && where == null) {
            return step.key(keys.get(0));
        }
        if (!matches.isEmpty() && where == null) {
            return step.matching(NamedValues.read(matches, "--match"));
        }
        if (where != null && onlyWhere()) {
            return step.where(condition(where));
        }
        throw new MisuseException(
                "A successor takes the place of one row.", "Select it by one --key, by --match, or by --where.");
    }

    private Request narrowed(Request selected) {
        Request request = selected;
        if (where != null && !onlyWhere()) {
            request = request.and(condition(where));
        }
        for (String by : orderBy) {
            Order order = Order.read(by);
            request = order.descending() ? request.orderByDescending(order.column()) : request.orderBy(order.column());
        }
        request = limit == null ? request : request.limit(limit);
        for (Map.Entry<String, Object> rule : NamedValues.read(rules, "--rule").entrySet()) {
            request = request.rule(rule.getKey(), rule.getValue().toString());
        }
        return settled(request);
    }

    /** A request with all that is not about which rows are meant. */
    Request settled(Request request) {
        Request settled = skips() ? request.onBlocked(OnBlocked.SKIP) : request;
        settled = because == null ? settled : settled.because(because);
        settled = id == null ? settled : settled.id(id);
        settled = wait == null ? settled : settled.lockTimeout(Duration.ofSeconds(wait));
        return settled.limits(limits.limits().stricter(settled.limits()));
    }

    private boolean onlyWhere() {
        return !named() && keys.isEmpty() && keysFrom == null && matches.isEmpty() && !everyRow;
    }

    /** Whether several rows may be meant, so that narrowing may make sense. */
    boolean mayBeSeveral() {
        return (where != null || named() || keysFrom != null || everyRow || keys.size() > 1) && !atOnce;
    }

    /** Whether all parameters of a named deletion are known, after asking for those that are not. */
    boolean completed(Vacancy vacancy, Screen screen) {
        return !named() || parameters.completed(vacancy.rules().deletion(table.substring(1)), screen);
    }

    private Request named(Vacancy vacancy, @Nullable Mode mode) {
        String name = table.substring(1);
        return mode == null
                ? vacancy.request(name, parameters.values())
                : vacancy.request(name, parameters.values(), mode);
    }

    private Request selected(Vacancy vacancy, SelectionStep step) {
        if (!keys.isEmpty()) {
            return step.keys(keys);
        }
        if (keysFrom != null) {
            return step.keys(keys(keysFrom, vacancy.schema().table(table)));
        }
        if (!matches.isEmpty()) {
            return step.matching(NamedValues.read(matches, "--match"));
        }
        return everyRow ? step.everyRow() : step.where(condition(where == null ? "" : where));
    }

    static Condition condition(String text) {
        return text.strip().startsWith("{") ? JsonReader.condition(text) : SearchCondition.read(text);
    }

    private static KeyList keys(String file, Table table) {
        boolean standardInput = file.equals("-");
        try (Reader reader = standardInput
                ? new InputStreamReader(System.in, StandardCharsets.UTF_8)
                : Files.newBufferedReader(Path.of(file), StandardCharsets.UTF_8)) {
            return KeyFile.read(reader, standardInput ? "standard input" : file, table);
        } catch (IOException failed) {
            throw new MisuseException(
                    "The keys cannot be read from " + file + ": " + FileTrouble.message(failed) + ".");
        }
    }
}
