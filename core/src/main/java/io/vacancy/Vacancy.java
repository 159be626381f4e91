package io.vacancy;

import io.vacancy.CarryingOut.Objector;
import io.vacancy.access.Permission.Act;
import io.vacancy.access.Scope;
import io.vacancy.advice.Advisor;
import io.vacancy.archive.Saver;
import io.vacancy.condition.Condition;
import io.vacancy.failure.MisuseException;
import io.vacancy.failure.VacancyException;
import io.vacancy.listener.Cancellation;
import io.vacancy.listener.Progress;
import io.vacancy.listener.RowTaker;
import io.vacancy.outcome.Outcome;
import io.vacancy.outcome.ReceiptId;
import io.vacancy.preview.Portion;
import io.vacancy.preview.Preview;
import io.vacancy.preview.Preview.State;
import io.vacancy.preview.SparedRow;
import io.vacancy.program.Compiler;
import io.vacancy.program.Deletion;
import io.vacancy.program.Program;
import io.vacancy.question.Answer;
import io.vacancy.request.Images;
import io.vacancy.request.Mode;
import io.vacancy.request.Request;
import io.vacancy.request.Restore;
import io.vacancy.rules.FittedMarker;
import io.vacancy.rules.Rules;
import io.vacancy.schema.Relation;
import io.vacancy.schema.Row;
import io.vacancy.schema.Schema;
import io.vacancy.schema.Table;
import io.vacancy.schema.TableName;
import io.vacancy.store.Definition;
import io.vacancy.store.SqlText;
import io.vacancy.store.Store;
import io.vacancy.store.Watch;
import io.vacancy.trail.Chain;
import io.vacancy.trail.Discretion;
import io.vacancy.trail.HistoryQuery;
import java.time.Clock;
import java.time.Instant;
import java.time.ZonedDateTime;
import java.util.Arrays;
import java.util.Collection;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.function.Supplier;
import java.util.stream.Stream;
import org.jspecify.annotations.Nullable;

/**
 * Stands in front of every deletion of an application: shows what a request would do, asks, carries out
 * what was shown, and tells what was done.
 *
 * <p>One instance serves the whole application and all its threads. Expected endings are {@link Outcome}s;
 * misuse and faults throw {@link VacancyException}s, after which nothing has been changed.
 */
public final class Vacancy {

    private static final int LONGEST_ACTOR = 255;

    private final Settings settings;
    private final Store store;
    private final Aftermath aftermath;
    private volatile @Nullable Compiled compiled;

    private Vacancy(Settings settings, Store store, Aftermath aftermath) {
        this.settings = settings;
        this.store = store;
        this.aftermath = aftermath;
    }

    private record Compiled(Schema read, Rules rules, Compiler compiler) {}

    /** Begins to open one on a store. */
    public static Opening on(Store store) {
        return new Opening(store);
    }

    static Vacancy opened(Settings settings, Store store, Aftermath aftermath) {
        Vacancy vacancy = new Vacancy(settings, store, aftermath);
        vacancy.compiled();
        return vacancy;
    }

    /**
     * The same inside the caller's own transaction, for use on the caller's thread: deletions become part of
     * it, a savepoint takes the place of rollback, and nothing is ever committed. Say {@link #committed()} once it is,
     * so that listeners hear of it.
     *
     * @param connection the caller's connection; for a store over JDBC a {@code java.sql.Connection} whose
     *     auto-commit is off
     * @throws MisuseException if the store cannot work on it
     */
    public Vacancy within(Object connection) {
        Vacancy inside = new Vacancy(settings, store.within(connection), new Aftermath.Callers(store));
        inside.compiled = compiled();
        return inside;
    }

    /** The caller's transaction is committed: what was done in it is told now. For what {@link #within} gave. */
    public void committed() {
        aftermath.settled(true);
    }

    /** The caller's transaction was rolled back: what was done in it is not told. For what {@link #within} gave. */
    public void rolledBack() {
        aftermath.settled(false);
    }

    /**
     * The same, whose work another thread can have given up.
     *
     * @param cancellation by which it does
     */
    public Vacancy cancelledBy(Cancellation cancellation) {
        Settings changed = new Settings(settings);
        changed.cancellation = cancellation;
        return with(changed);
    }

    /**
     * The same, which hands over every selected row of a deletion as it stands under the locks, before it goes.
     * What was handed over is gone only if the outcome is {@link Outcome.Done}; after a deadlock it begins
     * anew.
     *
     * @param taker called on the thread that deletes
     */
    public Vacancy handingOver(RowTaker taker) {
        Settings changed = new Settings(settings);
        changed.taker = taker;
        return with(changed);
    }

    /**
     * The same, which hands over a copy of everything that goes or is changed, while it is still there, to be kept
     * outside the database.
     *
     * @param saver called on the thread that deletes
     */
    public Vacancy savingTo(Saver saver) {
        Settings changed = new Settings(settings);
        changed.saver = saver;
        return with(changed);
    }

    /** Where receipts and the images of rows that went are kept. */
    public Archive archive() {
        return new Archive(store.archive(), this::rules, this::chronicle, settings.clock, aftermath);
    }

    /** What was done, and what was refused: who, when, why. */
    public History history() {
        return new History(
                () -> {
                    if (!store.archive().ready()) {
                        throw Archive.notReady();
                    }
                    return store.trail();
                },
                rules(),
                discretion(),
                this::seesAllOf,
                HistoryQuery.all());
    }

    private boolean seesAllOf(Table table) {
        return settings.permission.refusal(whoAsks(), table.name(), Act.LOOK) == null
                && settings.scope.get().on(table) == null;
    }

    /** Seals the audit history, and tells whether somebody changed it. */
    public Trail trail() {
        return new Trail(store, new Chain(settings.sealKey), settings.clock);
    }

    /** Events for other systems. */
    public Outbox outbox() {
        return new Outbox(store, settings.clock);
    }

    private Discretion discretion() {
        return new Discretion(rules(), settings.personalKey);
    }

    private Chronicle chronicle() {
        return new Chronicle(
                rules(),
                discretion(),
                whoAsks(),
                settings.onBehalfOf.get(),
                settings.origin.get(),
                settings.keysInTrail);
    }

    private Vacancy with(Settings changed) {
        Vacancy other = new Vacancy(changed, store, aftermath);
        other.compiled = compiled;
        return other;
    }

    /**
     * The request of a deletion that the rule book has a name for.
     *
     * @param name without the @ that stands before it on a command line
     * @param values a value, or the text of one, for each parameter
     * @throws MisuseException if there is no such deletion, or a value is missing, unknown or of another kind
     */
    public Request request(String name, Map<String, ?> values) {
        return rules().deletion(name).request(values);
    }

    /** The tables and relations of the database, with the relations that the rule book declares. */
    public Schema schema() {
        return compiled().rules().schema();
    }

    /** The rules in force. */
    public Rules rules() {
        return compiled().rules();
    }

    /** Reads the database's tables anew, after they were altered, and fits the rule book to them. */
    public void refresh() {
        store.refresh();
        compiled();
    }

    /** Everything that a request would do, with nothing changed. */
    public Preview preview(Request request) {
        Table table = tableOf(request);
        Judging judging = judging(request, table);
        String forbidden = judging.forbidden(Act.LOOK);
        Preview preview = forbidden != null
                ? judging.withheld(forbidden)
                : judging.judge(store.look(deletion(request, table, true), watch(request)));
        settings.listener.previewed(preview);
        return preview;
    }

    /**
     * Every selected row, in no particular order. To be closed: until then it holds a connection.
     *
     * @throws MisuseException if the actor may not look at them
     */
    public Stream<Row> rows(Request request) {
        return rows(request, request.table());
    }

    /**
     * Every row of a table that the request would remove, in no particular order. To be closed: until then it
     * holds a connection.
     *
     * @param of the selected table, or one that rows would go from with it; of other tables there is no row
     * @throws MisuseException if the actor may not look at them
     */
    public Stream<Row> rows(Request request, String of) {
        Table table = tableOf(request);
        Table wanted = schema().table(of);
        allowed(table);
        allowed(wanted);
        Deletion deletion = deletion(request, table, false);
        return deletion.program().tables().contains(wanted.name())
                ? store.rows(deletion, wanted.name(), watch(request))
                : Stream.empty();
    }

    /**
     * Every key that was asked for and is not there, each once, as rows that hold just the key. To be closed:
     * until then it holds a connection.
     */
    public Stream<Row> missing(Request request) {
        Table table = tableOf(request);
        allowed(table);
        return store.missing(deletion(request, table, false), watch(request));
    }

    /**
     * Every selected row that is left out because its going is blocked, with the reason; none unless the request
     * says {@link io.vacancy.request.OnBlocked#SPARE}. To be closed: until then it holds a connection.
     *
     * @throws MisuseException if the actor may not look at them
     */
    public Stream<SparedRow> spared(Request request) {
        Table table = tableOf(request);
        allowed(table);
        return store.spared(deletion(request, table, true), watch(request));
    }

    /**
     * Child rows whose parent is missing, by relation; relations without such rows are left out. To have them go,
     * or to set their link to NULL, see {@link Request.From#orphansOf} and {@link Request.From#orphansSetNull}.
     *
     * @param relations in their written form; all if empty
     * @throws MisuseException if one is unknown, or the actor may not look at its child rows
     */
    public Map<Relation, Portion> orphans(String... relations) {
        List<Relation> asked = relations.length == 0
                ? schema().relations()
                : Arrays.stream(relations).map(schema()::relation).toList();
        List<TableName> children = asked.stream().map(Relation::child).toList();
        return store.orphans(asked, visible(children), watch());
    }

    /**
     * How many rows tables have that the actor may see.
     *
     * @param tables those that are counted; views are as good as tables
     * @throws MisuseException if the actor may not look at one
     */
    public Map<TableName, Long> counts(Collection<TableName> tables) {
        return store.counts(List.copyOf(tables), visible(tables), watch());
    }

    /**
     * What holds for the rows of a table that are active, for requests and for the application's own code.
     *
     * @throws MisuseException if the rule book gives the table no marker
     */
    public Condition active(String table) {
        return marker(schema().table(table)).active();
    }

    /**
     * The same as SQL of this database, to stand in the application's own queries.
     *
     * @param alias under which the query has the table
     */
    public SqlText activeSql(String table, String alias) {
        Table meant = schema().table(table);
        return store.written(meant, marker(meant).active(), alias, ZonedDateTime.now(settings.clock));
    }

    /**
     * The statement that would make a view of the active rows of a table. It is not run. Today and now are those of
     * the database's clock whenever the view is read.
     *
     * @param view its name
     */
    public String activeView(String table, String view) {
        Table meant = schema().table(table);
        return String.valueOf(store.written(
                new Definition.ActiveRows(meant, view, marker(meant).active())));
    }

    private FittedMarker marker(Table table) {
        FittedMarker marker = rules().marker(table.name());
        if (marker == null) {
            throw new MisuseException(
                    "The rule book gives " + table + " no marker, so all of its rows are active.",
                    rules().marked().isEmpty() ? null : "Tables with a marker are " + rules().marked() + ".");
        }
        return marker;
    }

    /** What is worth mending in the database, with the statements that would; none of them is run. */
    public Advisor advisor() {
        return new Advisor(rules(), store);
    }

    /** The conditions on the rows that the actor may see. */
    private Map<TableName, Condition> visible(Collection<TableName> tables) {
        Scope scope = settings.scope.get();
        Map<TableName, Condition> scopes = new HashMap<>();
        for (TableName name : tables) {
            Table table = schema().table(name);
            allowed(table);
            Condition condition = scope.on(table);
            if (condition != null) {
                scopes.put(name, condition.readFor(table));
            }
        }
        return scopes;
    }

    private Watch watch() {
        return new Watch() {
            @Override
            public @Nullable Cancellation cancellation() {
                return settings.cancellation;
            }
        };
    }

    private void allowed(Table table) {
        String refusal = settings.permission.refusal(whoAsks(), table.name(), Act.LOOK);
        if (refusal != null) {
            throw new MisuseException(refusal);
        }
    }

    private Watch watch(Request request) {
        return new Watch() {
            @Override
            public void progress(Progress progress) {
                settings.listener.progress(request, progress);
            }

            @Override
            public @Nullable Cancellation cancellation() {
                return settings.cancellation;
            }
        };
    }

    /**
     * Everything that bringing back what went under a receipt would do, with nothing changed: the rows whose images
     * are kept, and those that were marked. Carried out like any other preview.
     *
     * @throws MisuseException if nothing is kept of this receipt, and no table that keeps receipts with its marker has
     *     a row of it
     */
    public Preview previewRestore(Restore restore) {
        return preview(request(restore));
    }

    /**
     * The request for everything that is kept under a receipt, restorable or not, to be purged.
     *
     * @throws MisuseException if nothing is kept under it
     */
    public Request requestFor(String receipt) {
        return new Restoring(rules(), store, watch()).everythingKept(receipt);
    }

    /**
     * A row as it stood when it went under a receipt, where its image is still kept.
     *
     * @param key a value, or a {@link io.vacancy.request.Key} of several
     * @throws MisuseException if the actor may not look at the table
     */
    public Optional<Row> image(String receipt, String table, Object key) {
        Request images = Request.from(table)
                .keys(List.of(key))
                .fromArchive(Images.of(List.of(receipt)))
                .purging();
        try (Stream<Row> rows = rows(images)) {
            return rows.findFirst();
        }
    }

    /** The request that brings back what went under a receipt; see {@link #previewRestore}. */
    public Request request(Restore restore) {
        return new Restoring(rules(), store, watch()).request(restore);
    }

    /**
     * Carries out what was shown, if the answer agrees to it and it still is the same. Whatever differs
     * from the preview by then ends in {@link Outcome.Changed} and changes nothing.
     *
     * @throws MisuseException if the answer belongs to another preview
     */
    public Outcome carryOut(Preview seen, Answer answer) {
        if (!answer.fingerprint().equals(seen.fingerprint())) {
            throw new MisuseException(
                    "The answer belongs to another preview than the one it is given with.",
                    "Answer the question of the preview that is carried out.");
        }
        Outcome standing = standing(seen);
        if (standing == null && !answer.accepted()) {
            standing = new Outcome.Declined(seen);
        }
        Agreement agreement = Agreement.by(seen, answer);
        if (standing != null) {
            return ended(seen.request(), tableOf(seen.request()), agreement, standing);
        }
        return carryOut(seen.request(), true, agreement, now -> {
            if (now.state() == State.BLOCKED || now.state() == State.REFUSED) {
                return standing(now);
            }
            return now.fingerprint().equals(seen.fingerprint()) ? null : Outcome.Changed.since(seen, now);
        });
    }

    /**
     * Carries out what an earlier preview showed, of which only the fingerprint is at hand. Whoever calls
     * this has had the answer; it is not asked for again.
     */
    public Outcome carryOut(Request request, String fingerprint) {
        return carryOut(request, true, Agreement.byFingerprint(fingerprint), now -> {
            Outcome standing = standing(now);
            return standing != null || now.fingerprint().equals(fingerprint)
                    ? standing
                    : Outcome.Changed.since(null, now);
        });
    }

    /**
     * Carries out a request that nobody is asked about.
     *
     * @throws MisuseException unless the request says how many rows it expects, or why nobody is asked
     */
    public Outcome carryOut(Request request) {
        if (request.limits().expect() == null && request.unasked() == null) {
            throw new MisuseException(
                    "Nobody was asked whether " + request.table() + " should lose rows.",
                    "Preview it and give the answer, or say expect(rows) or unasked(why) on the request.");
        }
        return carryOut(request, false, Agreement.OF_THE_REQUEST, Vacancy::standing);
    }

    private Outcome carryOut(Request request, boolean shown, Agreement agreement, Objector objector) {
        Table table = tableOf(request);
        CarryingOut carryingOut =
                new CarryingOut(settings, store, request, judging(request, table), chronicle(), agreement, objector);
        Outcome outcome = carryingOut.outcome(
                () -> deletion(request, tableOf(request), shown, carryingOut.id(), carryingOut.at()),
                () -> preview(request));
        return ended(request, table, agreement, outcome);
    }

    private Outcome ended(Request request, Table table, Agreement agreement, Outcome outcome) {
        aftermath.ended(settings.listener, request, outcome, () -> chronicle()
                .stopped(request, modeOf(request, table), table, agreement, outcome, settings.clock.instant()));
        return outcome;
    }

    private Judging judging(Request request, Table table) {
        boolean scoped = settings.scope.get().on(table) != null;
        Mode mode = modeOf(request, table);
        return new Judging(request, table, mode, whoAsks(), scoped, rules(), settings.permission);
    }

    private String whoAsks() {
        Supplier<String> actor = settings.actor;
        String who = actor == null ? null : actor.get();
        if (who == null || who.isBlank()) {
            throw new MisuseException("The actor is empty; somebody has to be named as the one who asks.");
        }
        if (who.length() > LONGEST_ACTOR) {
            throw new MisuseException(
                    "The actor has " + who.length() + " characters, and a receipt keeps " + LONGEST_ACTOR + ".",
                    "Give a name or an identifier, and the rest as origin(…).");
        }
        return who;
    }

    /** The outcome in which a preview already stands, or null if it could go ahead. */
    private static @Nullable Outcome standing(Preview preview) {
        return switch (preview.state()) {
            case READY -> null;
            case NOTHING -> new Outcome.Nothing(preview);
            case BLOCKED -> new Outcome.Blocked(preview);
            case REFUSED -> new Outcome.Refused(preview, String.valueOf(preview.refusal()));
        };
    }

    private Mode modeOf(Request request, Table table) {
        Mode mode = request.mode();
        return mode == null ? rules().usualMode(table.name()) : mode;
    }

    private Table tableOf(Request request) {
        return schema().table(request.table());
    }

    private Deletion deletion(Request request, Table table, boolean shown) {
        Instant now = settings.clock.instant();
        return deletion(request, table, shown, ReceiptId.next(now), now);
    }

    /** Everything that is written with it, markers and stamps included, bears the same time. */
    private Deletion deletion(Request request, Table table, boolean shown, String receipt, Instant at) {
        Mode mode = modeOf(request, table);
        Rules rules = rules().with(request.rules(), mode);
        Compiler compiler = rules == rules() ? compiled().compiler() : new Compiler(rules);
        Images images = request.images();
        Program program = images != null && !images.besides()
                ? Program.alone(rules.schema(), table.name(), mode)
                : compiler.compile(table.name(), mode);
        Signature signature = new Signature(whoAsks(), request.because(), receipt);
        Clock fixed = Clock.fixed(at, settings.clock.getZone());
        return new Reading(rules, settings.scope.get(), fixed, signature).deletion(request, table, program, shown);
    }

    private Compiled compiled() {
        Compiled known = compiled;
        Schema read = store.schema();
        if (known == null || known.read() != read) {
            Rules rules = Rules.fit(settings.rules, read);
            known = new Compiled(read, rules, new Compiler(rules));
            compiled = known;
        }
        return known;
    }
}
