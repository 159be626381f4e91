package io.vacancy;

import io.vacancy.access.Permission;
import io.vacancy.access.Scope;
import io.vacancy.failure.MisuseException;
import io.vacancy.failure.RuleBookException;
import io.vacancy.failure.VacancyException;
import io.vacancy.listener.Listener;
import io.vacancy.rules.RuleBook;
import io.vacancy.store.Store;
import io.vacancy.trail.Chain;
import io.vacancy.trail.MacKey;
import java.time.Clock;
import java.time.Duration;
import java.util.Map;
import java.util.function.Supplier;
import org.jspecify.annotations.Nullable;

/** What an application says of itself before an instance is opened; for one thread. Begins with {@link Vacancy#on}. */
public final class Opening {

    private static final int MOST_KEYS_IN_TRAIL = 100_000;

    private final Store store;
    private final Settings settings = new Settings();

    Opening(Store store) {
        this.store = store;
    }

    /** The application's rule book; without one everything follows what the schema declares. */
    public Opening rules(RuleBook rules) {
        settings.rules = rules;
        return this;
    }

    /** Who asks, looked up at each request, on the thread that makes it. */
    public Opening actor(Supplier<String> actor) {
        settings.actor = actor;
        return this;
    }

    /** For whom the actor asks, where that is somebody else, looked up at each request; null for nobody else. */
    public Opening onBehalfOf(Supplier<@Nullable String> whom) {
        settings.onBehalfOf = whom;
        return this;
    }

    /**
     * From where it is asked, looked up at each request: any names and values that the audit history is to tell,
     * such as the page and the address.
     */
    public Opening origin(Supplier<Map<String, String>> where) {
        settings.origin = where;
        return this;
    }

    /**
     * A secret by which personal values are told apart in the audit history without being told; see
     * {@link io.vacancy.rules.TableEntry#personal}. Without one they cannot even be asked for.
     *
     * @param secret at least 16 bytes, always the same; copied
     */
    public Opening personalKey(byte[] secret) {
        settings.personalKey = MacKey.of(secret);
        return this;
    }

    /**
     * A secret by which the audit history is sealed, so that only who has it can seal it anew; see {@link Trail}.
     *
     * @param secret at least 16 bytes, the same from the first entry on; copied
     */
    public Opening sealKey(byte[] secret) {
        settings.sealKey = MacKey.of(secret);
        return this;
    }

    /**
     * How often, at most, what this instance does is followed by a sealing of the audit history, on the same
     * thread; once a second unless set.
     */
    public Opening sealEvery(Duration time) {
        settings.sealEvery = time;
        return this;
    }

    /**
     * Of how many rows of each effect the audit history has the keys; 1,000 unless set.
     *
     * @param most from 0 to 100,000
     */
    public Opening keysInTrail(int most) {
        if (most < 0 || most > MOST_KEYS_IN_TRAIL) {
            throw new MisuseException(most + " keys cannot be told of an effect.", "Give 0 to 100,000.");
        }
        settings.keysInTrail = most;
        return this;
    }

    /**
     * The clock that receipts are dated by, and whose zone says which day is today; the machine's unless set.
     */
    public Opening clock(Clock clock) {
        settings.clock = clock;
        return this;
    }

    /** What the one who asks may see and touch, looked up at each request; everything unless set. */
    public Opening scope(Supplier<Scope> scope) {
        settings.scope = scope;
        return this;
    }

    /** Who may do what, asked at each request; everybody may do everything unless set. */
    public Opening permission(Permission permission) {
        settings.permission = permission;
        return this;
    }

    /** Hears of previews, outcomes, retries and progress. */
    public Opening listener(Listener listener) {
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
                    "Nobody is named as the one who deletes.",
                    "Set actor(…), such as actor(session::userName), before open().");
        }
        Settings said = new Settings(settings);
        Aftermath own = new Aftermath.Own(store, new Chain(said.sealKey), said.clock, said.sealEvery);
        return Vacancy.opened(said, store, own);
    }
}
