// SPDX-License-Identifier: Apache-2.0
package io.vacancy;

import io.vacancy.access.Permission.Act;
import io.vacancy.failure.MisuseException;
import io.vacancy.internal.argument.Arguments;
import io.vacancy.internal.audit.AnchoredChain;
import io.vacancy.internal.audit.ChainVerifier;
import io.vacancy.internal.execute.Installation;
import io.vacancy.rules.Assignment;
import io.vacancy.rules.ResolvedMarker;
import io.vacancy.schema.Table;
import io.vacancy.spi.WatchedTable;
import io.vacancy.trail.Bypass;
import io.vacancy.trail.ChainHead;
import io.vacancy.trail.Verification;
import java.util.Arrays;
import java.util.List;
import org.jspecify.annotations.Nullable;

/**
 * Seals the audit history, so that nobody changes it unnoticed, and tells whether somebody did. Serves all threads.
 *
 * <p>A chain proves that the entries are those that were sealed, all of them and in this order. It does not prove that
 * the last ones are there, unless a head is kept where whoever could cut them off cannot write; nor that nobody who may
 * write to the trail sealed it anew from some place on, unless it is sealed with a secret that they have not, or a head
 * is kept elsewhere; nor that what Vacancy was told, of who asked and why, was true.
 */
public final class Trail {

    private final Installation at;
    private final AnchoredChain sealing;

    Trail(Installation at) {
        this.at = at;
        this.sealing = at.settings().sealing();
    }

    /** Whether there is a place for the trail, as {@link Archive#setUp()} makes it. */
    public boolean ready() {
        return at.store().archive().ready();
    }

    /**
     * Seals what is committed and not sealed yet. Vacancy does it by itself after what it does, once in a while; a
     * scheduler that calls it takes along what was written on callers' connections.
     *
     * @return where the chain ends now, to be kept elsewhere
     * @throws io.vacancy.failure.BusyException if somebody else is sealing for too long
     * @throws io.vacancy.failure.TrailIntegrityException if seals are gone up to which the trail is known to have been
     *     sealed, by {@link Vacancy.Builder#anchor}
     */
    public ChainHead seal() {
        at.wantsOwnTables();
        return sealing.seal(at.store().trail(), at.settings().clock.instant());
    }

    /**
     * The statements that would make triggers on tables, which record in the database whatever is deleted or marked
     * around Vacancy, or refuse it. None of them is run; they are for whoever may alter the tables. Truncating a table is
     * seen on PostgreSQL alone; what MariaDB deletes by its own ON DELETE CASCADE, nowhere there. Somebody who may alter
     * tables can drop them again: they are against oversights.
     *
     * @param refusing whether they refuse it instead of recording it
     * @param tables those that are watched; all if empty
     * @throws MisuseException if this engine has no triggers in SQL, as H2
     */
    public List<String> bypassTriggers(boolean refusing, String... tables) {
        at.wantsOwnTables();
        List<Table> meant = Arguments.noneNull(tables, "tables").length == 0
                ? at.schema().tables().stream().filter(table -> !table.view()).toList()
                : Arrays.stream(tables).map(at.schema()::table).toList();
        List<String> script = at.store()
                .trail()
                .bypassTriggers(meant.stream().map(this::watched).toList(), refusing);
        if (script.isEmpty()) {
            throw new MisuseException(
                    "This database has no triggers that can be written in SQL, so nothing there sees what is done around"
                            + " Vacancy.",
                    "Give accounts other than the application's no right to delete.");
        }
        return script;
    }

    private WatchedTable watched(Table table) {
        List<String> key = table.identity().lasts() ? table.identity().columns() : List.of();
        boolean personal = key.stream().anyMatch(column -> at.rules().personal().origin(table.name(), column) != null);
        ResolvedMarker marker = at.rules().marker(table.name());
        List<String> columns = marker == null
                ? List.of()
                : marker.marking("", null, "").stream()
                        .map(Assignment::column)
                        .filter(column -> !marker.companions().contains(column))
                        .toList();
        return new WatchedTable(table, personal ? List.of() : key, columns);
    }

    /**
     * What triggers have recorded of deletions around Vacancy, newest first; none where there are no triggers.
     *
     * @param most how many at most
     * @throws MisuseException if the actor may not read the history of every table and row
     */
    public List<Bypass> bypasses(int most) {
        at.wantsOwnTables();
        at.visible().wantsEverything(Act.READ_HISTORY);
        return at.store().trail().bypasses(most);
    }

    /**
     * Looks at the whole trail, from its begin, in time that grows with it and with a bounded heap; with the head that is
     * remembered outside the database, where there is one.
     */
    public Verification verify() {
        return verify(sealing.remembered());
    }

    /**
     * The same, with a head that was kept elsewhere.
     *
     * @param kept as {@link #seal()} gave it some time; null for none
     */
    public Verification verify(@Nullable ChainHead kept) {
        at.wantsOwnTables();
        ChainVerifier verifier = new ChainVerifier(sealing.chain());
        return at.store().trail().chain((links, ends) -> verifier.verify(links, ends, kept));
    }
}
