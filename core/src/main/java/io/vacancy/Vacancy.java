package io.vacancy;

import io.vacancy.access.Permission;
import io.vacancy.access.Permission.Act;
import io.vacancy.access.Scope;
import io.vacancy.advice.Advisor;
import io.vacancy.archive.Saver;
import io.vacancy.condition.Condition;
import io.vacancy.failure.MisuseException;
import io.vacancy.failure.RuleBookException;
import io.vacancy.failure.VacancyException;
import io.vacancy.listener.Cancellation;
import io.vacancy.listener.Listener;
import io.vacancy.listener.Progress;
import io.vacancy.listener.RowTaker;
import io.vacancy.outcome.Outcome;
import io.vacancy.outcome.Receipt;
import io.vacancy.outcome.ReceiptId;
import io.vacancy.preview.Findings;
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
import io.vacancy.request.Selection;
import io.vacancy.rules.FittedMarker;
import io.vacancy.rules.RuleBook;
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
import java.time.Clock;
import java.time.Instant;
import java.time.ZonedDateTime;
import java.util.Arrays;
import java.util.Collection;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
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

    private final Builder settings;
    private final Store store;
    private final Supplier<String> actor;
    private volatile @Nullable Compiled compiled;

    private Vacancy(Builder settings, Store store, Supplier<String> actor) {
        this.settings = settings;
        this.store = store;
        this.actor = actor;
    }

    private record Compiled(Schema read, Rules rules, Compiler compiler) {}

    /** Starts building on a store. */
    public static Builder on(Store store) {
        return new Builder(store);
    }

    /** What an instance needs to know. */
    public static final class Builder {

        private final Store store;
        private RuleBook rules = RuleBook.empty();
        private @Nullable Supplier<String> actor;
        private Clock clock = Clock.systemDefaultZone();
        private Supplier<Scope> scope = Scope::everything;
        private Permission permission = (who, table, act) -> null;
        private Listener listener = new Listener() {};
        private @Nullable Cancellation cancellation;
        private @Nullable RowTaker taker;
        private @Nullable Saver saver;

        private Builder(Store store) {
            this.store = store;
        }

        private Builder(Builder other) {
            this.store = other.store;
            this.rules = other.rules;
            this.actor = other.actor;
            this.clock = other.clock;
            this.scope = other.scope;
            this.permission = other.permission;
            this.listener = other.listener;
            this.cancellation = other.cancellation;
            this.taker = other.taker;
            this.saver = other.saver;
        }

        /** The application's rule book; without one everything follows what the schema declares. */
        public Builder rules(RuleBook rules) {
            this.rules = rules;
            return this;
        }

        /** Who asks, looked up at each request, on the thread that makes it. */
        public Builder actor(Supplier<String> actor) {
            this.actor = actor;
            return this;
        }

        /**
         * The clock that receipts are dated by, and whose zone says which day is today; the machine's unless set.
         */
        public Builder clock(Clock clock) {
            this.clock = clock;
            return this;
        }

        /** What the one who asks may see and touch, looked up at each request; everything unless set. */
        public Builder scope(Supplier<Scope> scope) {
            this.scope = scope;
            return this;
        }

        /** Who may do what, asked at each request; everybody may do everything unless set. */
        public Builder permission(Permission permission) {
            this.permission = permission;
            return this;
        }

        /** Hears of previews, outcomes, retries and progress. */
        public Builder listener(Listener listener) {
            this.listener = listener;
            return this;
        }

        /**
         * Opens it, reads the schema and fits the rule book to it.
         *
         * @throws MisuseException if no actor is set
         * @throws RuleBookException if the rule book does not fit the database
         * @throws VacancyException if the database cannot be read
         */
        public Vacancy open() {
            if (actor == null) {
                throw new MisuseException(
                        "Nobody is named as the one who deletes.",
                        "Set actor(…), such as actor(session::userName), before open().");
            }
            Vacancy vacancy = new Vacancy(new Builder(this), store, actor);
            vacancy.compiled();
            return vacancy;
        }
    }

    /**
     * The same inside the caller's own transaction, for use on the caller's thread: deletions become part of
     * it, a savepoint takes the place of rollback, and nothing is ever committed.
     *
     * @param connection the caller's connection; for a store over JDBC a {@code java.sql.Connection} whose
     *     auto-commit is off
     * @throws MisuseException if the store cannot work on it
     */
    public Vacancy within(Object connection) {
        Vacancy inside = new Vacancy(settings, store.within(connection), actor);
        inside.compiled = compiled();
        return inside;
    }

    /**
     * The same, whose work another thread can have given up.
     *
     * @param cancellation by which it does
     */
    public Vacancy cancelledBy(Cancellation cancellation) {
        Builder changed = new Builder(settings);
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
        Builder changed = new Builder(settings);
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
        Builder changed = new Builder(settings);
        changed.saver = saver;
        return with(changed);
    }

    /** Where receipts and the images of rows that went are kept. */
    public Archive archive() {
        return new Archive(store.archive(), this::rules, this::whoAsks, settings.clock);
    }

    private Vacancy with(Builder changed) {
        Vacancy other = new Vacancy(changed, store, actor);
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
        if (standing != null) {
            settings.listener.ended(seen.request(), standing);
            return standing;
        }
        return carryOut(seen.request(), true, now -> {
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
        return carryOut(request, true, now -> {
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
        return carryOut(request, false, Vacancy::standing);
    }

    private interface Objector {
        @Nullable
        Outcome objection(Preview now);
    }

    private Outcome carryOut(Request request, boolean shown, Objector objector) {
        Table table = tableOf(request);
        Outcome outcome = outcome(request, table, shown, objector);
        settings.listener.ended(request, outcome);
        return outcome;
    }

    private Outcome outcome(Request request, Table table, boolean shown, Objector objector) {
        Judging judging = judging(request, table);
        boolean unlinks = request.selection() instanceof Selection.Orphans orphans && orphans.setNull();
        String refusal = judging.forbidden(unlinks ? Act.CHANGE : Act.of(modeOf(request, table)));
        if (refusal != null) {
            return new Outcome.Refused(judging.withheld(refusal), refusal);
        }
        String id = receiptId(request);
        Store.Approval approval = new Store.Approval() {
            @Override
            public @Nullable Outcome objection(Findings found) {
                Outcome objection = objector.objection(judging.judge(found));
                String forbidden = objection == null ? judging.forbidden(found) : null;
                return forbidden == null ? objection : new Outcome.Refused(judging.withheld(forbidden), forbidden);
            }

            @Override
            public void retrying(int attempt, String why) {
                settings.listener.retried(request, attempt, why);
            }

            @Override
            public void progress(Progress progress) {
                settings.listener.progress(request, progress);
            }

            @Override
            public @Nullable Cancellation cancellation() {
                return settings.cancellation;
            }

            @Override
            public @Nullable Saver saver() {
                return settings.saver;
            }

            @Override
            public Receipt receipt(Findings found) {
                return Vacancy.this.receipt(request, table, judging.actor(), id, found);
            }

            @Override
            public @Nullable RowTaker taker() {
                return settings.taker;
            }
        };
        Store.Ending ending = store.carryOut(deletion(request, table, shown, id), approval);
        if (ending instanceof Store.Ending.Outdated) {
            // The schema has been altered since it was read: compile anew, once.
            ending = store.carryOut(deletion(request, tableOf(request), shown, id), approval);
        }
        if (ending instanceof Store.Ending.Removed removed) {
            return new Outcome.Done(receipt(request, table, judging.actor(), id, removed.found()));
        }
        if (ending instanceof Store.Ending.Stopped stopped) {
            return stopped.outcome();
        }
        // The look inside the transaction is no longer true, so the outcome carries a fresh one.
        String detail = ending instanceof Store.Ending.Slipped slipped
                ? slipped.detail()
                : "The tables of the database are being altered.";
        return new Outcome.Changed(preview(request), List.of(detail));
    }

    private Judging judging(Request request, Table table) {
        boolean scoped = settings.scope.get().on(table) != null;
        Mode mode = modeOf(request, table);
        return new Judging(request, table, mode, whoAsks(), scoped, rules(), settings.permission);
    }

    private String whoAsks() {
        String who = actor.get();
        if (who == null || who.isBlank()) {
            throw new MisuseException("The actor is empty; somebody has to be named as the one who asks.");
        }
        return who;
    }

    private Receipt receipt(Request request, Table table, String by, String id, Findings removed) {
        Instant now = settings.clock.instant();
        return new Receipt(
                id,
                table.name(),
                modeOf(request, table),
                by,
                now,
                request.because(),
                request.unasked(),
                request.named(),
                request.rules(),
                removed.spared(),
                removed.records(),
                removed.effects(),
                removed.totals(),
                removed.warnings(),
                removed.kept(),
                removed.visibility());
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
        return deletion(request, table, shown, receiptId(request));
    }

    private Deletion deletion(Request request, Table table, boolean shown, String receipt) {
        Mode mode = modeOf(request, table);
        Rules rules = rules().with(request.rules(), mode);
        Compiler compiler = rules == rules() ? compiled().compiler() : new Compiler(rules);
        Images images = request.images();
        Program program = images != null && !images.besides()
                ? Program.alone(rules.schema(), table.name(), mode)
                : compiler.compile(table.name(), mode);
        Signature signature = new Signature(whoAsks(), request.because(), receipt);
        return new Reading(rules, settings.scope.get(), settings.clock, signature)
                .deletion(request, table, program, shown);
    }

    private String receiptId(Request request) {
        String continued = request.continued();
        return continued == null ? ReceiptId.next(settings.clock.instant()) : continued;
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
