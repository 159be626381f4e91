// SPDX-License-Identifier: Apache-2.0
package io.vacancy;

import io.vacancy.access.Permission.Act;
import io.vacancy.archive.ReceiptId;
import io.vacancy.failure.MisuseException;
import io.vacancy.internal.access.AccessRights;
import io.vacancy.internal.argument.Arguments;
import io.vacancy.internal.audit.KeyText;
import io.vacancy.internal.execute.Installation;
import io.vacancy.request.Key;
import io.vacancy.request.Request;
import io.vacancy.schema.Table;
import io.vacancy.trail.HistoryQuery;
import io.vacancy.trail.TrailEntry;
import io.vacancy.trail.TrailEntry.Ending;
import io.vacancy.trail.TrailEntry.Kind;
import java.time.Instant;
import java.util.List;
import java.util.Objects;
import java.util.stream.Stream;
import org.jspecify.annotations.Nullable;

/**
 * What the trail tells, newest first: {@code vacancy.history().of("boat", 17).open()}. Each narrowing makes another
 * one; immutable and for all threads.
 *
 * <p>Somebody with a scope, or without permission to read the history of some tables, is told what was done under the same
 * scope to tables that are open to them; of an entry that tells of others too, these are cut off, with all texts.
 */
public final class History {

    private final Installation at;
    private final HistoryQuery query;

    History(Installation at, HistoryQuery query) {
        this.at = at;
        this.query = query;
    }

    /**
     * Some entries, and where the next ones begin.
     *
     * @param next for {@link #after}; null where there are no more
     */
    public record Page(List<TrailEntry> entries, @Nullable String next) {
        public Page {
            Arguments.noneNull(entries, "entries");
            entries = List.copyOf(entries);
        }
    }

    /** Only what touched rows of this table, or was to. */
    public History of(String table) {
        return with(query.of(meant(table).toString(), null));
    }

    /**
     * Only what touched the row with this key, or was to. Where more rows were touched at once than the trail has keys
     * of, the first are found.
     *
     * @param key a value, or a {@link Key} of several; a personal one as it is, where the same secret is given
     */
    public History of(String table, Object key) {
        Table meant = meant(table);
        List<Object> values = (key instanceof Key ready ? ready : Key.of(key)).valuesFor(meant);
        return with(query.of(meant.toString(), KeyText.of(meant, values, at.redactor())));
    }

    private Table meant(String table) {
        // What is archived tells of tables that are gone.
        Table meant = at.knowingTablesOf(
                        Request.purge(Arguments.notBlank(table, "table")).everyRow())
                .schema()
                .table(table);
        at.visible().wants(meant, Act.READ_HISTORY);
        return meant;
    }

    /** Only what this one did. */
    public History by(String who) {
        Arguments.notBlank(who, "who");
        return with(query.by(who));
    }

    /** Only what was done under a receipt, or to what it keeps. */
    public History receipt(ReceiptId id) {
        return with(query.receipt(Arguments.notNull(id, "receipt").value()));
    }

    /** Only of this kind. */
    public History kind(Kind kind) {
        Arguments.notNull(kind, "kind");
        return with(query.kind(kind));
    }

    /** Only what ended so. */
    public History ending(Ending ending) {
        Arguments.notNull(ending, "ending");
        return with(query.ending(ending));
    }

    /** Only from this time on. */
    public History since(Instant time) {
        Arguments.notNull(time, "time");
        return with(query.since(time));
    }

    /** Only before this time. */
    public History before(Instant time) {
        Arguments.notNull(time, "time");
        return with(query.before(time));
    }

    /**
     * Only what comes after an entry, that is, older ones. What is written meanwhile is newer, so nothing is skipped
     * or comes twice from one page to the next.
     *
     * @param entry its identifier
     */
    public History after(String entry) {
        Arguments.notBlank(entry, "entry");
        return with(query.after(entry));
    }

    private History with(HistoryQuery changed) {
        return new History(at, changed);
    }

    /** The entries, newest first. To be closed: until then it holds a connection. */
    public Stream<TrailEntry> open() {
        at.wantsOwnTables();
        AccessRights visible = at.visible();
        return at.store().trail().entries(query).map(visible::seen).filter(Objects::nonNull);
    }

    /**
     * The first entries.
     *
     * @param most how many at most, from 1
     */
    public Page page(int most) {
        if (most < 1) {
            throw new MisuseException("A page of " + most + " entries is none.", "Ask for one or more.");
        }
        List<TrailEntry> entries;
        try (Stream<TrailEntry> all = open()) {
            entries = all.limit(most + 1L).toList();
        }
        return entries.size() <= most
                ? new Page(entries, null)
                : new Page(entries.subList(0, most), entries.get(most - 1).id());
    }
}
