// SPDX-License-Identifier: Apache-2.0
package io.vacancy.jobs.order;

import io.vacancy.failure.MisuseException;
import io.vacancy.internal.argument.Arguments;
import io.vacancy.jobs.pace.BatchSize;
import io.vacancy.jobs.pace.Throttling;
import io.vacancy.jobs.timing.Recurrence;
import io.vacancy.jobs.timing.Window;
import io.vacancy.preview.Preview;
import io.vacancy.request.Request;
import java.time.Instant;
import java.util.List;
import java.util.Map;
import java.util.function.Consumer;
import org.jspecify.annotations.Nullable;

/**
 * What a job is to do, and when and how. Immutable: each method gives another one.
 */
public final class JobOrder {

    private static final int MOST_LANES = 16;
    private static final int LONGEST_NAME = 80;

    private final Parts parts;

    private JobOrder(Parts parts) {
        this.parts = parts;
    }

    private static final class Parts implements Cloneable {
        private @Nullable Request request;
        private @Nullable Upkeep upkeep;
        private @Nullable Preview shown;
        private @Nullable String name;
        private @Nullable Instant at;
        private @Nullable Recurrence every;
        private @Nullable Window window;
        private ChangePolicy onChange = ChangePolicy.ONLY_SHOWN;
        private BatchSize batches = BatchSize.USUAL;
        private Throttling pace = Throttling.FULL;
        private int lanes = 1;
        private Map<String, String> context = Map.of();
        private List<String> tell = List.of();

        private Parts copy() {
            try {
                return (Parts) clone();
            } catch (CloneNotSupportedException impossible) {
                throw new IllegalStateException(impossible);
            }
        }
    }

    /** Work that needs no request, for jobs that recur. */
    public enum Upkeep {
        /** Removes for good whatever has expired by the rule book. */
        PURGE_DUE("purge-due"),
        /** Seals the audit history. */
        SEAL("seal"),
        /** Passes the events of the outbox on, by a node that has somebody to pass them on to. */
        PASS_ON("pass-on");

        private final String word;

        Upkeep(String word) {
            this.word = word;
        }

        /** The written form, such as {@code purge-due}. */
        public String word() {
            return word;
        }
    }

    /**
     * To carry out what was shown. The answer is given with the order; without one the request has to waive the question.
     *
     * @throws MisuseException unless rows are deleted
     */
    public static JobOrder of(Preview shown) {
        Parts parts = new Parts();
        parts.shown = Arguments.notNull(shown, "shown");
        parts.request = shown.request();
        return new JobOrder(parts);
    }

    /** To carry out what this selects when the job begins; nobody is shown it, so the request has to say why. */
    public static JobOrder of(Request request) {
        Parts parts = new Parts();
        parts.request = Arguments.notNull(request, "request");
        parts.onChange = ChangePolicy.MATCHING;
        return new JobOrder(parts);
    }

    /** To do what has to be done again and again. */
    public static JobOrder of(Upkeep upkeep) {
        Parts parts = new Parts();
        parts.upkeep = Arguments.notNull(upkeep, "upkeep");
        parts.onChange = ChangePolicy.MATCHING;
        return new JobOrder(parts);
    }

    private JobOrder with(Consumer<Parts> change) {
        Parts changed = parts.copy();
        change.accept(changed);
        return new JobOrder(changed);
    }

    /**
     * Gives it a name. Where a job of that name is there already, a number is added, so that it never clashes; unless set,
     * it is made of the operation, the table and the time.
     *
     * @param name letters, digits, {@code -}, {@code _} and {@code .}, up to 80
     */
    public JobOrder named(String name) {
        if (!Arguments.notBlank(name, "name").matches("[A-Za-z0-9][A-Za-z0-9._-]*") || name.length() > LONGEST_NAME) {
            throw new MisuseException(
                    "\"" + name + "\" cannot be the name of a job.",
                    "Give up to " + LONGEST_NAME
                            + " letters, digits, '-', '_' and '.', beginning with a letter or digit.");
        }
        return with(changed -> changed.name = name);
    }

    /** Begins it at this time; at once unless set. */
    public JobOrder at(Instant time) {
        Arguments.notNull(time, "time");
        return with(changed -> changed.at = time);
    }

    /**
     * Does it again and again: each time with the rows that match then.
     *
     * @throws MisuseException if it is to carry out what was shown, since that is done once
     */
    public JobOrder every(Recurrence recurrence) {
        if (parts.shown != null && parts.onChange != ChangePolicy.MATCHING) {
            throw new MisuseException(
                    "What was shown is done once, and this is to recur.",
                    "Say onChange(MATCHING) first, or make the order from the request.");
        }
        Arguments.notNull(recurrence, "recurrence");
        return with(changed -> changed.every = recurrence);
    }

    /** Works only while this window is open. */
    public JobOrder within(Window window) {
        Arguments.notNull(window, "window");
        return with(changed -> changed.window = window);
    }

    /** Says what is done about rows that have changed since they were shown; {@link ChangePolicy#ONLY_SHOWN} unless set. */
    public JobOrder onChange(ChangePolicy policy) {
        if (parts.shown == null && policy != ChangePolicy.MATCHING) {
            throw new MisuseException(
                    "Nothing was shown, so nothing can be compared with it.", "Make the order from a preview.");
        }
        Arguments.notNull(policy, "policy");
        return with(changed -> changed.onChange = policy);
    }

    /** Says how large its transactions are. */
    public JobOrder batches(BatchSize size) {
        Arguments.notNull(size, "size");
        return with(changed -> changed.batches = size);
    }

    /** Says how fast it works. */
    public JobOrder pace(Throttling pace) {
        Arguments.notNull(pace, "pace");
        return with(changed -> changed.pace = pace);
    }

    /**
     * Works on so many connections at once, on any nodes.
     *
     * @param lanes from 1 to 16
     */
    public JobOrder lanes(int lanes) {
        if (lanes < 1 || lanes > MOST_LANES) {
            throw new MisuseException("A job works in 1 to " + MOST_LANES + " lanes, not " + lanes + ".");
        }
        return with(changed -> changed.lanes = lanes);
    }

    /** What the application needs to know again when the job is carried out, such as a tenant; kept in the database. */
    public JobOrder context(Map<String, String> context) {
        Map<String, String> copy = Map.copyOf(Arguments.named(context, "context"));
        return with(changed -> changed.context = copy);
    }

    /** Whom the notifiers tell how it ended; nobody unless set. */
    public JobOrder tell(String... recipients) {
        List<String> copy = List.of(Arguments.notNull(recipients, "recipients"));
        return with(changed -> changed.tell = copy);
    }

    /** What is to be done; null for upkeep. */
    public @Nullable Request request() {
        return parts.request;
    }

    /** The upkeep to be done; null for a request. */
    public @Nullable Upkeep upkeep() {
        return parts.upkeep;
    }

    /** What was shown, or null. */
    public @Nullable Preview shown() {
        return parts.shown;
    }

    /** The name that was given, or null. */
    public @Nullable String name() {
        return parts.name;
    }

    /** When it is to begin, or null for at once. */
    public @Nullable Instant at() {
        return parts.at;
    }

    /** When it recurs, or null. */
    public @Nullable Recurrence every() {
        return parts.every;
    }

    /** When it may work, or null for always. */
    public @Nullable Window window() {
        return parts.window;
    }

    /** What is done about changes. */
    public ChangePolicy onChange() {
        return parts.onChange;
    }

    /** How large its transactions are. */
    public BatchSize batches() {
        return parts.batches;
    }

    /** How fast it works. */
    public Throttling pace() {
        return parts.pace;
    }

    /** On how many connections it works. */
    public int lanes() {
        return parts.lanes;
    }

    /** What the application keeps with it. */
    public Map<String, String> context() {
        return parts.context;
    }

    /** Whom it tells. */
    public List<String> recipients() {
        return parts.tell;
    }
}
