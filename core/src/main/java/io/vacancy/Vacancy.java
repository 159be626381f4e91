// SPDX-License-Identifier: Apache-2.0
package io.vacancy;

import io.vacancy.access.Caller;
import io.vacancy.access.Permission;
import io.vacancy.access.Scope;
import io.vacancy.archive.ArchiveQuery;
import io.vacancy.archive.ArchivedRows;
import io.vacancy.archive.PersonKeys;
import io.vacancy.archive.ReceiptId;
import io.vacancy.archive.RowComparison;
import io.vacancy.archive.SaveTarget;
import io.vacancy.failure.MisuseException;
import io.vacancy.failure.NotSetUpException;
import io.vacancy.failure.RuleBookException;
import io.vacancy.failure.VacancyException;
import io.vacancy.internal.argument.Arguments;
import io.vacancy.internal.execute.ArchiveComparison;
import io.vacancy.internal.execute.Installation;
import io.vacancy.internal.execute.OutcomePublisher;
import io.vacancy.internal.execute.Receipts;
import io.vacancy.internal.execute.RequestExecutor;
import io.vacancy.internal.execute.Settings;
import io.vacancy.internal.execute.Workplace;
import io.vacancy.internal.execute.Workplaces;
import io.vacancy.listener.Cancellation;
import io.vacancy.listener.CommitStep;
import io.vacancy.listener.Listener;
import io.vacancy.listener.RowHandler;
import io.vacancy.outcome.Outcome;
import io.vacancy.outcome.Receipt;
import io.vacancy.preview.Preview;
import io.vacancy.preview.SkippedRow;
import io.vacancy.question.Answer;
import io.vacancy.request.Mode;
import io.vacancy.request.Request;
import io.vacancy.rules.ResolvedRules;
import io.vacancy.rules.RuleBook;
import io.vacancy.schema.Row;
import io.vacancy.schema.Schema;
import io.vacancy.schema.TableName;
import io.vacancy.spi.ArchiveStore;
import io.vacancy.spi.CallerTransaction.Completion;
import io.vacancy.spi.Store;
import io.vacancy.spi.TransactionParticipant;
import io.vacancy.spi.plan.ArchiveSelection;
import io.vacancy.trail.ChainAnchor;
import io.vacancy.trail.HistoryQuery;
import io.vacancy.trail.MacKey;
import java.time.Clock;
import java.time.Duration;
import java.util.Collection;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.function.Supplier;
import java.util.stream.Stream;
import org.jspecify.annotations.Nullable;

/**
 * Stands in front of every deletion of an application: shows what a request would do, asks, carries out what was shown, and
 * tells what was done.
 *
 * <p>One instance serves the whole application and all its threads. Expected endings are {@link Outcome}s; misuse and faults
 * throw {@link VacancyException}s, after which nothing has been changed. No argument may be null unless it is marked so;
 * null is a {@link MisuseException}.
 */
public final class Vacancy {

    /** As many as leave room for the numbers of their lines. */
    private static final int MOST_PARTS = 100_000;

    private final Installation at;
    private final RequestExecutor executor;

    private Vacancy(Installation at) {
        this.at = at;
        this.executor = new RequestExecutor(at);
    }

    /** Begins to open one on a store. */
    public static Builder on(Store store) {
        return new Builder(Arguments.notNull(store, "store"));
    }

    /**
     * The same inside the caller's own transaction, for use on the caller's thread: deletions become part of it, a
     * savepoint takes the place of rollback, and nothing is ever committed. Say {@link #committed()} once it is, so that
     * listeners hear of it.
     *
     * @param connection the caller's connection; for a store over JDBC a {@code java.sql.Connection} whose auto-commit is
     *     off
     * @throws MisuseException if the store cannot work on it
     */
    public Vacancy within(Object connection) {
        Workplace place = at.workplaces().on(Arguments.notNull(connection, "connection"));
        at.rules();
        return new Vacancy(at.with(at.workplaces().only(place)));
    }

    /**
     * The caller's transaction is committed: what was done in it is told now. For what {@link #within} gave.
     *
     * @return what failed while it was told, a sentence each; none of it changes what was done
     */
    public List<String> committed() {
        return at.publisher().settled(Completion.COMMITTED);
    }

    /** The caller's transaction was rolled back: what was done in it is not told. For what {@link #within} gave. */
    public void rolledBack() {
        at.publisher().settled(Completion.ROLLED_BACK);
    }

    /**
     * The same in transactions of Vacancy's own, whatever transaction the calling thread is in: what is done stays if that one is
     * rolled back, and waits for the rows that it holds, which may be for ever.
     */
    public Vacancy separately() {
        return new Vacancy(at.with(at.workplaces().separate()));
    }

    /**
     * The same, whose work another thread can have given up.
     *
     * @param cancellation by which it does
     */
    public Vacancy cancelledBy(Cancellation cancellation) {
        Settings changed = new Settings(at.settings());
        changed.cancellation = Arguments.notNull(cancellation, "cancellation");
        return with(changed);
    }

    /**
     * The same, which hands over every selected row of a deletion as it stands under the locks, before it is deleted. What
     * was handed over is deleted only if the outcome is {@link Outcome.Done}; after a deadlock it begins anew.
     *
     * @param handler called on the thread that deletes
     */
    public Vacancy onEachRow(RowHandler handler) {
        Settings changed = new Settings(at.settings());
        changed.rowHandler = Arguments.notNull(handler, "handler");
        return with(changed);
    }

    /**
     * The same, which hands over a copy of everything that is removed or changed, while it is still there, to be kept
     * outside the database.
     *
     * @param target called on the thread that deletes
     */
    public Vacancy saveTo(SaveTarget target) {
        Settings changed = new Settings(at.settings());
        changed.saveTarget = Arguments.notNull(target, "target");
        return with(changed);
    }

    /**
     * The same, whose executions become further parts of a receipt: what belongs together and is done in several
     * transactions is restored by one identifier.
     *
     * @param receipt an identifier of the caller's, or of an earlier part
     */
    public Vacancy continuing(ReceiptId receipt) {
        Settings changed = new Settings(at.settings());
        changed.continued = Arguments.notNull(receipt, "receipt");
        return with(changed);
    }

    /**
     * The same, whose next execution becomes a part of a receipt under a number of the caller's: so several connections add
     * parts to one receipt without waiting for one another.
     *
     * @param receipt an identifier of the caller's, or of an earlier part
     * @param part from 1 to 100,000, each for one execution that is committed
     */
    public Vacancy continuing(ReceiptId receipt, int part) {
        if (part < 1 || part > MOST_PARTS) {
            throw new MisuseException("A receipt has parts from 1 to " + MOST_PARTS + ", not " + part + ".");
        }
        Settings changed = new Settings(at.settings());
        changed.continued = Arguments.notNull(receipt, "receipt");
        changed.part = part;
        return with(changed);
    }

    /**
     * The same, which has something of the application's own committed together with what is done.
     *
     * @param step called on the thread that deletes, before the commit
     */
    public Vacancy beforeCommit(CommitStep step) {
        Settings changed = new Settings(at.settings());
        changed.commitStep = Arguments.notNull(step, "step");
        return with(changed);
    }

    /** On whose account calls of this thread are made now. */
    public Caller caller() {
        return at.caller();
    }

    /** The same on the account of somebody who may be gone by now; nobody's suppliers are asked. */
    public Vacancy calledBy(Caller caller) {
        Arguments.notNull(caller, "caller");
        Settings changed = new Settings(at.settings());
        changed.actor = caller::actor;
        changed.onBehalfOf = caller::onBehalfOf;
        changed.origin = caller::origin;
        changed.scope = caller::scope;
        return with(changed);
    }

    /**
     * The store that calls of this thread work on: in the transaction that the thread is in, where Vacancy joins it, else the one
     * that it was opened on. For modules that keep something of their own with what is done.
     */
    public Store store() {
        return at.store();
    }

    /** For a request, which may be about what is archived of tables that are gone. */
    private RequestExecutor executor(Request request) {
        Installation knowing = at.knowingTablesOf(request);
        return knowing == at ? executor : new RequestExecutor(knowing);
    }

    private Vacancy with(Settings changed) {
        return new Vacancy(at.with(changed));
    }

    /** Where receipts and removed rows are kept. */
    public Archive archive() {
        return new Archive(at);
    }

    /** What was done, and what was refused: who, when, why. */
    public History history() {
        return new History(at, HistoryQuery.all());
    }

    /** Seals the audit history, and tells whether somebody changed it. */
    public Trail trail() {
        return new Trail(at);
    }

    /** Questions that wait for their answer, beyond one call and one process. */
    public OpenQuestions questions() {
        return new OpenQuestions(at, executor);
    }

    /** What belongs to one person, and what was done with it. */
    public Persons persons() {
        return new Persons(at, executor);
    }

    /** Events for other systems. */
    public Outbox outbox() {
        return new Outbox(at);
    }

    /** What can be told of tables as they are: active rows, counts, orphans, advice. */
    public Tables tables() {
        return new Tables(at);
    }

    /**
     * The request of a deletion that the rule book has a name for, in the table's usual mode.
     *
     * @param name without the @ that stands before it on a command line
     * @param values a value, or the text of one, for each parameter
     * @throws MisuseException if there is no such deletion, or a value is missing, unknown or of another kind
     */
    public Request request(String name, Map<String, ?> values) {
        return rules().deletion(Arguments.notBlank(name, "name")).request(values);
    }

    /** The same in this mode. */
    public Request request(String name, Map<String, ?> values, Mode mode) {
        return rules().deletion(Arguments.notBlank(name, "name")).request(values, Arguments.notNull(mode, "mode"));
    }

    /** The tables and relations of the database, with the relations that the rule book declares. */
    public Schema schema() {
        return at.schema();
    }

    /** The rules in force. */
    public ResolvedRules rules() {
        return at.rules();
    }

    /** Reads the database's tables anew, after they were altered, and fits the rule book to them. */
    public void refresh() {
        at.refresh();
    }

    /** Everything that a request would do, with nothing changed. */
    public Preview preview(Request request) {
        return executor(Arguments.notNull(request, "request")).preview(request);
    }

    /**
     * Every selected row, in no particular order. To be closed: until then it holds a connection.
     *
     * @throws MisuseException if the actor may not look at them
     */
    public Stream<Row> rows(Request request) {
        return executor(Arguments.notNull(request, "request")).rows(request, selected -> selected);
    }

    /**
     * Every row of a table that the request would remove, in no particular order. To be closed: until then it holds a
     * connection.
     *
     * @param of the selected table, or one that rows would be removed from with it; of other tables there is no row
     * @throws MisuseException if the actor may not look at them
     */
    public Stream<Row> rows(Request request, String of) {
        Arguments.notBlank(of, "of");
        return executor(Arguments.notNull(request, "request")).rows(request, selected -> schema().table(of));
    }

    /**
     * Every key that was asked for and is not there, each once, as rows that hold just the key. To be closed: until then
     * it holds a connection.
     */
    public Stream<Row> missing(Request request) {
        return executor.missing(Arguments.notNull(request, "request"));
    }

    /**
     * Every selected row that is left out because it is blocked, with the reason; none unless the request says
     * {@link io.vacancy.request.OnBlocked#SKIP}. To be closed: until then it holds a connection.
     *
     * @throws MisuseException if the actor may not look at them
     */
    public Stream<SkippedRow> skipped(Request request) {
        return executor.skipped(Arguments.notNull(request, "request"));
    }

    /**
     * The archived rows of a table that a purge would remove, in no particular order. To be closed: until then it holds a
     * connection.
     *
     * @param purge a {@link Request#purge(String)} that says which rows
     * @param receipts only those of these receipts; of any if empty
     * @throws MisuseException if the actor may not look at the table
     */
    public Stream<Row> images(Request purge, Collection<ReceiptId> receipts) {
        Arguments.noneNull(receipts, "receipts");
        return executor(Arguments.notNull(purge, "purge"))
                .images(purge, new ArchiveSelection(List.copyOf(receipts), null, null));
    }

    /**
     * A row as it was when it was deleted under a receipt, where it is still archived.
     *
     * @param key a value, or a {@link io.vacancy.request.Key} of several
     * @throws MisuseException if the actor may not look at the table
     */
    public Optional<Row> image(ReceiptId receipt, String table, Object key) {
        Arguments.notNull(receipt, "receipt");
        try (Stream<Row> rows = images(Request.purge(table).key(key), List.of(receipt))) {
            return rows.findFirst();
        }
    }

    /**
     * What the rows that were deleted under a receipt were, and what stands under their keys now, table by table. Rows that
     * were restored since are not archived any more, and not among them; rows that only lost a link, or were marked, are
     * not either. To be closed: until then it holds a connection, and now and then a second one.
     *
     * @throws MisuseException if no row is archived under it, or the actor may not look at a table
     */
    public Stream<RowComparison> compare(ReceiptId receipt) {
        Arguments.notNull(receipt, "receipt");
        List<TableName> tables;
        try (Stream<ArchivedRows> kept = archive().rows(ArchiveQuery.all().receipts(List.of(receipt)))) {
            tables = kept.filter(line -> line.kind() == ArchivedRows.Kind.ROWS && line.left() > 0)
                    .map(ArchivedRows::table)
                    .distinct()
                    .toList();
        }
        if (tables.isEmpty()) {
            throw new MisuseException(
                    "No row is archived under receipt " + receipt + ".",
                    "Nothing was erased under it, or it was restored, or it is purged.");
        }
        ArchiveComparison comparison = new ArchiveComparison(executor, receipt);
        return tables.stream().map(table -> schema().table(table)).flatMap(comparison::of);
    }

    /**
     * The receipt of what was done, with all of its parts as one; empty where there is none, or where the actor may not
     * see all that it is about. This tells what became of an outcome in doubt.
     *
     * @throws NotSetUpException if Vacancy's own tables are not set up
     */
    public Optional<Receipt> receipt(ReceiptId id) {
        Arguments.notNull(id, "id");
        at.wantsOwnTables();
        ArchiveStore archive = at.store().archive();
        return Receipts.joined(archive.receiptParts(id))
                .filter(receipt -> at.visible().sees(receipt, archive.scopes(id)));
    }

    /**
     * Carries out what was shown, if the answer is enough for the question as it is under the locks, and nothing has
     * changed since. Whatever differs from the preview by then ends in {@link Outcome.Changed} and changes nothing.
     *
     * @throws MisuseException if the answer belongs to another preview
     */
    public Outcome execute(Preview preview, Answer answer) {
        return executor(Arguments.notNull(preview, "preview").request())
                .execute(preview, Arguments.notNull(answer, "answer"));
    }

    /**
     * Carries out what was shown without asking anybody, as far as the request itself waives the question.
     *
     * @throws MisuseException unless the request says how many rows it expects, that a yes/no question is accepted, or why
     *     no confirmation is needed
     */
    public Outcome execute(Preview preview) {
        return executor(Arguments.notNull(preview, "preview").request()).execute(preview);
    }

    /**
     * Carries out a request with the answer to an earlier preview of it, of which only the fingerprint is at hand. The
     * question is made anew under the locks, and the answer judged on it; if the fingerprint is another by then, the
     * outcome is {@link Outcome.Changed}.
     */
    public Outcome execute(Request request, Answer answer) {
        return executor(Arguments.notNull(request, "request")).execute(request, Arguments.notNull(answer, "answer"));
    }

    /**
     * Carries out a request that nobody is asked about.
     *
     * @throws MisuseException unless the request says how many rows it expects, that a yes/no question is accepted, or why
     *     no confirmation is needed
     */
    public Outcome execute(Request request) {
        return executor(Arguments.notNull(request, "request")).execute(request);
    }

    /**
     * What stands against carrying out what was shown with this answer, judged on everything as it is now, without doing
     * it; empty if nothing does. For what is carried out later, and piece by piece.
     *
     * @throws MisuseException if the answer belongs to another preview
     */
    public Optional<Outcome> objection(Preview preview, Answer answer) {
        return Optional.ofNullable(
                executor(Arguments.notNull(preview, "preview").request())
                        .objection(preview, Arguments.notNull(answer, "answer")));
    }

    /**
     * The same where nobody was asked, as far as the request itself waives the question.
     *
     * @throws MisuseException unless it does
     */
    public Optional<Outcome> objection(Preview preview) {
        return Optional.ofNullable(
                executor(Arguments.notNull(preview, "preview").request()).objection(preview, null));
    }

    /** What an application says of itself before an instance is opened; for one thread. Begins with {@link #on}. */
    public static final class Builder {

        private static final int MOST_KEYS_IN_TRAIL = 100_000;

        private final Store store;
        private final Settings settings = new Settings();

        Builder(Store store) {
            this.store = store;
        }

        /** The application's rule book; without one everything follows what the schema declares. */
        public Builder rules(RuleBook rules) {
            Arguments.notNull(rules, "rules");
            settings.rules = rules;
            return this;
        }

        /** Who asks, looked up at each request, on the thread that makes it. */
        public Builder actor(Supplier<String> actor) {
            Arguments.notNull(actor, "actor");
            settings.actor = actor;
            return this;
        }

        /** For whom the actor asks, where that is somebody else, looked up at each request; null for nobody else. */
        public Builder onBehalfOf(Supplier<@Nullable String> whom) {
            Arguments.notNull(whom, "whom");
            settings.onBehalfOf = whom;
            return this;
        }

        /**
         * From where it is asked, looked up at each request: any names and values that the audit history is to tell,
         * such as the page and the address.
         */
        public Builder origin(Supplier<Map<String, String>> where) {
            Arguments.notNull(where, "where");
            settings.origin = where;
            return this;
        }

        /**
         * A secret by which personal values are told apart in the audit history without being told; see
         * {@link io.vacancy.rules.TableEntry#personal}. Without one they cannot even be asked for.
         *
         * @param secret at least 16 bytes, always the same; copied
         */
        public Builder personalKey(byte[] secret) {
            Arguments.notNull(secret, "secret");
            settings.personalKey = MacKey.of(secret);
            return this;
        }

        /**
         * Encrypts what is personal in archived rows by the key of the person whom a row belongs to, so that nobody reads it any
         * more, backups of the database included, once that key is destroyed; see {@link Persons#destroyKey}. Unless set,
         * archived rows are as they were.
         */
        public Builder personKeys(PersonKeys keys) {
            settings.personKeys = Arguments.notNull(keys, "keys");
            return this;
        }

        /**
         * A secret by which the audit history is sealed, so that only who has it can seal it anew; see {@link Trail}.
         *
         * @param secret at least 16 bytes, the same from the first entry on; copied
         */
        public Builder sealKey(byte[] secret) {
            Arguments.notNull(secret, "secret");
            settings.sealKey = MacKey.of(secret);
            return this;
        }

        /**
         * Where it is remembered, outside the database, up to where the audit history was sealed; nowhere unless set. Nothing
         * is sealed any more once seals below that are gone or others, which is told as a warning after the commit.
         */
        public Builder anchor(ChainAnchor anchor) {
            settings.anchor = Arguments.notNull(anchor, "anchor");
            return this;
        }

        /**
         * How often, at most, what this instance does is followed by a sealing of the audit history, on the same
         * thread; once a second unless set.
         */
        public Builder sealEvery(Duration time) {
            Arguments.notNull(time, "time");
            settings.sealEvery = time;
            return this;
        }

        /**
         * Of how many rows of each effect the audit history has the keys; 1,000 unless set.
         *
         * @param most from 0 to 100,000
         */
        public Builder keysInTrail(int most) {
            if (most < 0 || most > MOST_KEYS_IN_TRAIL) {
                throw new MisuseException("keysInTrail must be from 0 to 100,000, not " + most + ".");
            }
            settings.keysInTrail = most;
            return this;
        }

        /**
         * How long requests that do not say so wait for rows that somebody else holds, before the outcome is busy; as long as the
         * database does unless set.
         *
         * @param atMost not negative; some engines count in whole seconds and wait for at least one
         */
        public Builder lockTimeout(Duration atMost) {
            if (Arguments.notNull(atMost, "lockTimeout").isNegative()) {
                throw new MisuseException("The lock timeout must be 0 or more, not " + atMost + ".");
            }
            settings.lockTimeout = atMost;
            return this;
        }

        /** How long an open question can be answered; an hour unless set. See {@link OpenQuestions}. */
        public Builder questionLifetime(Duration time) {
            if (Arguments.notNull(time, "time").isNegative() || time.isZero()) {
                throw new MisuseException("A question must stay open for some time, not " + time + ".");
            }
            settings.questionLifetime = time;
            return this;
        }

        /**
         * How long what was agreed to waits for the approval of somebody else, where the rule book says that it needs one; three
         * days unless set.
         */
        public Builder approvalLifetime(Duration time) {
            if (Arguments.notNull(time, "time").isNegative() || time.isZero()) {
                throw new MisuseException("What is to be approved must wait for some time, not " + time + ".");
            }
            settings.approvalLifetime = time;
            return this;
        }

        /**
         * The clock that receipts are dated by, and whose zone says which day is today; the machine's unless set.
         */
        public Builder clock(Clock clock) {
            Arguments.notNull(clock, "clock");
            settings.clock = clock;
            return this;
        }

        /** What the one who asks may see and touch, looked up at each request; everything unless set. */
        public Builder scope(Supplier<Scope> scope) {
            Arguments.notNull(scope, "scope");
            settings.scope = scope;
            return this;
        }

        /** Who may do what, asked at each request; everybody may do everything unless set. */
        public Builder permission(Permission permission) {
            Arguments.notNull(permission, "permission");
            settings.permission = permission;
            return this;
        }

        /**
         * Has Vacancy join the transactions that a framework begins: what is done while the calling thread is in one
         * becomes part of it, as {@link Vacancy#within} does for a connection.
         */
        public Builder joining(TransactionParticipant participant) {
            settings.participant = Arguments.notNull(participant, "participant");
            return this;
        }

        /** Hears of previews, outcomes, retries and progress. */
        public Builder listener(Listener listener) {
            Arguments.notNull(listener, "listener");
            settings.listener = listener;
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
            if (settings.actor == null) {
                throw new MisuseException(
                        "An actor is required, and none is set.",
                        "Set actor(…), such as actor(session::userName), before open().");
            }
            Settings said = new Settings(settings);
            OutcomePublisher publisher = new OutcomePublisher.Own(store, said.sealing(), said.clock, said.sealEvery);
            Workplaces places = new Workplaces(new Workplace(store, publisher), said.participant);
            Vacancy vacancy = new Vacancy(new Installation(said, places));
            vacancy.at.rules();
            return vacancy;
        }
    }
}
