package io.vacancy;

import io.vacancy.failure.MisuseException;
import io.vacancy.failure.VacancyException;
import io.vacancy.outcome.Outcome;
import io.vacancy.outcome.Receipt;
import io.vacancy.outcome.ReceiptId;
import io.vacancy.preview.Findings;
import io.vacancy.preview.Preview;
import io.vacancy.preview.Preview.State;
import io.vacancy.preview.Wording;
import io.vacancy.program.Compiler;
import io.vacancy.program.Deletion;
import io.vacancy.program.Target;
import io.vacancy.question.Answer;
import io.vacancy.question.Question;
import io.vacancy.request.Key;
import io.vacancy.request.Mode;
import io.vacancy.request.Request;
import io.vacancy.request.Selection;
import io.vacancy.rules.RuleBook;
import io.vacancy.schema.Schema;
import io.vacancy.schema.Table;
import io.vacancy.store.Store;
import java.time.Clock;
import java.time.Instant;
import java.util.ArrayList;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Set;
import java.util.function.Supplier;
import org.jspecify.annotations.Nullable;

/**
 * Stands in front of every deletion of an application: shows what a request would do, asks, carries out
 * what was shown, and tells what was done.
 *
 * <p>One instance serves the whole application and all its threads. Expected endings are {@link Outcome}s;
 * misuse and faults throw {@link VacancyException}s, after which nothing has been changed.
 */
public final class Vacancy {

    private final Store store;
    private final RuleBook rules;
    private final Supplier<String> actor;
    private final Clock clock;
    private final Wording wording;
    private volatile @Nullable Compiled compiled;

    private Vacancy(Builder builder, Supplier<String> actor) {
        this.store = builder.store;
        this.rules = builder.rules;
        this.actor = actor;
        this.clock = builder.clock;
        this.wording = new Wording(rules);
    }

    private record Compiled(Schema schema, Compiler compiler) {}

    /** Starts building on a store. */
    public static Builder on(Store store) {
        return new Builder(store);
    }

    /** What an instance needs to know. */
    public static final class Builder {

        private final Store store;
        private RuleBook rules = RuleBook.empty();
        private @Nullable Supplier<String> actor;
        private Clock clock = Clock.systemUTC();

        private Builder(Store store) {
            this.store = store;
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

        /** The clock that receipts are dated by; the machine's unless set. */
        public Builder clock(Clock clock) {
            this.clock = clock;
            return this;
        }

        /**
         * Opens it, and reads the schema.
         *
         * @throws MisuseException if no actor is set
         * @throws VacancyException if the database cannot be read
         */
        public Vacancy open() {
            if (actor == null) {
                throw new MisuseException(
                        "Nobody is named as the one who deletes.",
                        "Set actor(…), such as actor(session::userName), before open().");
            }
            Vacancy vacancy = new Vacancy(this, actor);
            vacancy.compiled();
            return vacancy;
        }
    }

    /** The tables and relations of the database. */
    public Schema schema() {
        return compiled().schema();
    }

    /** The rule book in force. */
    public RuleBook rules() {
        return rules;
    }

    /** Everything that a request would do, with nothing changed. */
    public Preview preview(Request request) {
        Table table = tableOf(request);
        return judged(request, table, store.look(deletion(request, table)));
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
        if (standing != null) {
            return standing;
        }
        if (!answer.accepted()) {
            return new Outcome.Declined(seen);
        }
        return carryOut(seen.request(), now -> {
            if (now.fingerprint().equals(seen.fingerprint())) {
                return standing(now);
            }
            return now.state() == State.BLOCKED ? new Outcome.Blocked(now) : Outcome.Changed.since(seen, now);
        });
    }

    /**
     * Carries out what an earlier preview showed, of which only the fingerprint is at hand. Whoever calls
     * this has had the answer; it is not asked for again.
     */
    public Outcome carryOut(Request request, String fingerprint) {
        return carryOut(request, now -> {
            Outcome standing = standing(now);
            if (standing != null) {
                return standing;
            }
            return now.fingerprint().equals(fingerprint) ? null : Outcome.Changed.since(null, now);
        });
    }

    /**
     * Carries out a request that nobody is asked about.
     *
     * @throws MisuseException unless the request says how many rows it expects, or why nobody is asked
     */
    public Outcome carryOut(Request request) {
        if (request.expect() == null && request.unasked() == null) {
            throw new MisuseException(
                    "Nobody was asked whether " + request.table() + " should lose rows.",
                    "Preview it and give the answer, or say expect(rows) or unasked(why) on the request.");
        }
        return carryOut(request, this::standing);
    }

    private interface Judge {
        @Nullable
        Outcome objection(Preview now);
    }

    private Outcome carryOut(Request request, Judge judge) {
        Table table = tableOf(request);
        String by = actor.get();
        if (by == null || by.isBlank()) {
            throw new MisuseException("The actor is empty; somebody has to be named as the one who deletes.");
        }
        Store.Ending ending =
                store.carryOut(deletion(request, table), found -> judge.objection(judged(request, table, found)));
        if (ending instanceof Store.Ending.Removed removed) {
            return new Outcome.Done(receipt(request, table, by, removed.found()));
        }
        if (ending instanceof Store.Ending.Stopped stopped) {
            return stopped.outcome();
        }
        // The look inside the transaction is no longer true, so the outcome carries a fresh one.
        Store.Ending.Slipped slipped = (Store.Ending.Slipped) ending;
        return new Outcome.Changed(preview(request), List.of(slipped.detail()));
    }

    private Receipt receipt(Request request, Table table, String by, Findings removed) {
        Instant now = clock.instant();
        return new Receipt(
                ReceiptId.next(now),
                table.name(),
                modeOf(request),
                by,
                now,
                request.because(),
                request.unasked(),
                removed.records(),
                removed.effects(),
                removed.totals(),
                removed.warnings(),
                false);
    }

    /** The outcome in which a preview already stands, or null if it could go ahead. */
    private @Nullable Outcome standing(Preview preview) {
        return switch (preview.state()) {
            case READY -> null;
            case NOTHING -> new Outcome.Nothing(preview);
            case BLOCKED -> new Outcome.Blocked(preview);
            case REFUSED -> new Outcome.Refused(preview, String.valueOf(preview.refusal()));
        };
    }

    private Preview judged(Request request, Table table, Findings found) {
        State state = State.READY;
        String refusal = null;
        Long expected = request.expect();
        if (found.selected() == 0) {
            state = State.NOTHING;
        } else if (expected != null && expected != found.selected()) {
            state = State.REFUSED;
            refusal = Wording.rows(expected) + " of " + table + " were expected, but the selection has "
                    + Wording.rows(found.selected()) + ".";
        } else if (!found.blockers().isEmpty()) {
            state = State.BLOCKED;
        }
        Mode mode = modeOf(request);
        Question question = state == State.READY
                ? wording.ask(table, mode, found)
                : wording.none("Nothing to ask: the request is " + state.word() + ".", found);
        return new Preview(request, table.name(), mode, state, refusal, found, question);
    }

    private static Mode modeOf(Request request) {
        Mode mode = request.mode();
        return mode == null ? Mode.ERASE : mode;
    }

    private Table tableOf(Request request) {
        return schema().table(request.table());
    }

    private Deletion deletion(Request request, Table table) {
        Target target = target(request.selection(), table);
        return new Deletion(compiled().compiler().compile(table.name(), modeOf(request)), target);
    }

    private static Target target(Selection selection, Table table) {
        if (selection instanceof Selection.ByKeys byKeys) {
            Set<List<Object>> distinct = new LinkedHashSet<>();
            for (Key key : byKeys.keys()) {
                distinct.add(key.valuesFor(table));
            }
            return new Target.Keys(new ArrayList<>(distinct));
        }
        throw new IllegalStateException("unknown selection " + selection);
    }

    private Compiled compiled() {
        Compiled known = compiled;
        Schema schema = store.schema();
        if (known == null || known.schema() != schema) {
            known = new Compiled(schema, new Compiler(schema, rules));
            compiled = known;
        }
        return known;
    }
}
