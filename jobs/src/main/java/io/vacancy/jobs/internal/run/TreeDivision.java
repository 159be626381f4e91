// SPDX-License-Identifier: Apache-2.0
package io.vacancy.jobs.internal.run;

import io.vacancy.Vacancy;
import io.vacancy.failure.StoreException;
import io.vacancy.jdbc.spi.ErrorClasses.Fault;
import io.vacancy.jobs.internal.run.Batch.Whole;
import io.vacancy.jobs.internal.store.KeptLane;
import io.vacancy.jobs.internal.store.ShownRow;
import io.vacancy.outcome.Outcome;
import io.vacancy.preview.Effect;
import io.vacancy.preview.Preview;
import io.vacancy.request.OnBlocked;
import io.vacancy.request.OperationKind;
import io.vacancy.request.Request;
import io.vacancy.schema.Row;
import io.vacancy.schema.Table;
import io.vacancy.schema.TableName;
import java.sql.Connection;
import java.time.Duration;
import java.util.ArrayList;
import java.util.Collections;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Set;
import java.util.stream.Stream;
import org.jspecify.annotations.Nullable;

/**
 * Removes what depends on one selected row, since all of it together is more than a transaction may have: table by table,
 * children before parents, so that no row ever refers to one that is gone. The row itself stays until little enough is left.
 * One thread only.
 */
final class TreeDivision {

    /** As many keys as are looked up at once; every look walks through the whole tree. */
    private static final int LOOKED_UP = 50_000;

    private static final int FIRST = 5_000;

    private final Whole of;
    private final ShownRow root;
    private final Request tree;
    private KeptLane lane;
    private int size;

    /** @param root the selected row */
    TreeDivision(Whole of, KeptLane lane, ShownRow root, boolean compares) {
        this.of = of;
        this.lane = lane;
        this.root = root;
        Request piece = of.request().piece(List.of(root.asKey(of.identity())));
        this.tree = compares ? piece.filter(row -> ShownRow.digest(row).equals(root.digest())) : piece;
        Long most = of.mostRows();
        this.size = most == null ? FIRST : (int) Math.max(1, Math.min(FIRST, most));
    }

    /**
     * Removes all that depends on the row, as far as nothing blocks it.
     *
     * @return the lane as it stands then, at the same place
     * @throws JobEndedException if that cannot be done piece by piece
     */
    KeptLane divide() {
        Preview preview = of.vacancy().preview(tree.withoutConfirmation(of.job().confirmed()));
        if (preview.operation() != OperationKind.ERASE) {
            throw new JobEndedException(
                    "A row of " + preview.table() + " has more rows depending on it than a batch may"
                            + " have, and only what is erased can be divided. Allow larger batches.");
        }
        if (preview.state() != Preview.State.READY) {
            // Gone, changed or blocked: that is for the batch to tell.
            return lane;
        }
        boolean removed = false;
        for (TableName table : childrenFirst(preview)) {
            removed |= empty(table);
        }
        if (!removed) {
            throw new JobEndedException("What depends on a row of " + preview.table()
                    + " refers to one another in a circle, or is changed with it, and is more than a batch may have."
                    + " Allow larger batches.");
        }
        return lane;
    }

    /** Effects are told parents first. */
    private static List<TableName> childrenFirst(Preview preview) {
        Set<TableName> tables = new LinkedHashSet<>();
        for (Effect effect : preview.effects()) {
            if (effect.goes()) {
                tables.remove(effect.table());
                tables.add(effect.table());
            }
        }
        List<TableName> order = new ArrayList<>(tables);
        Collections.reverse(order);
        return order;
    }

    /** Whether anything was removed from a table. */
    private boolean empty(TableName name) {
        Table table = of.vacancy().schema().table(name);
        List<String> identity = table.identity().columns();
        boolean removed = false;
        while (true) {
            List<ShownRow> keys = keys(table, identity);
            boolean further = false;
            for (int at = 0; at < keys.size(); ) {
                int next = Math.min(at + size, keys.size());
                Boolean done = remove(table, identity, keys.subList(at, next));
                if (done == null) {
                    size = Math.max(1, size / 2);
                    continue;
                }
                further |= done;
                at = next;
            }
            removed |= further;
            if (!further || keys.size() < LOOKED_UP) {
                return removed;
            }
        }
    }

    private List<ShownRow> keys(Table table, List<String> identity) {
        if (!table.identity().lasts()) {
            return List.of();
        }
        try (Stream<Row> rows = of.vacancy().rows(tree, table.toString())) {
            return rows.map(row -> ShownRow.of(row, identity, false))
                    .filter(row -> !(table.toString().equals(of.job().table())
                            && row.key().equals(root.key())))
                    .limit(LOOKED_UP)
                    .toList();
        }
    }

    /** Whether anything was removed; null where it is too much at once. */
    private @Nullable Boolean remove(Table table, List<String> identity, List<ShownRow> keys) {
        Request said = of.request();
        Request request = Request.erase(table.toString())
                .keys(keys.stream().map(row -> row.asKey(identity)).toList())
                .includingMarked()
                .onBlocked(OnBlocked.SKIP)
                .withoutConfirmation(of.job().confirmed());
        request = said.reason() == null ? request : request.because(said.reason());
        request = said.archived() ? request : request.withoutArchive();
        Long most = of.mostRows();
        request = most == null ? request : request.atMostInAll(most);
        long started = System.nanoTime();
        Outcome outcome;
        try {
            outcome = vacancy(started).execute(request);
        } catch (StoreException failed) {
            if (of.at().tables().fault(failed) == Fault.TOO_MUCH_AT_ONCE && keys.size() > 1) {
                return null;
            }
            throw failed;
        }
        if (outcome instanceof Outcome.Done) {
            return true;
        }
        boolean smaller = outcome instanceof Outcome.Refused || outcome instanceof Outcome.Busy;
        if (smaller && keys.size() > 1) {
            return null;
        }
        if (outcome instanceof Outcome.InDoubt) {
            // Whatever became of it, the database knows: the lane is read anew, and the tree looked at again.
            throw new LaneLostException();
        }
        return false;
    }

    private Vacancy vacancy(long started) {
        KeptLane before = lane;
        return of.vacancy()
                .continuing(of.run().receipt(), lane.part(of.job().settings().lanes()))
                .beforeCommit((receipt, connection) -> {
                    KeptLane after = before.at(
                            before.chunk(),
                            before.place(),
                            before.deferred(),
                            before.progress()
                                    .working(Duration.ofNanos(System.nanoTime() - started), null)
                                    .with(receipt));
                    if (!of.at().tables().advance((Connection) connection, before, after)) {
                        throw new LaneLostException();
                    }
                    lane = after;
                });
    }
}
