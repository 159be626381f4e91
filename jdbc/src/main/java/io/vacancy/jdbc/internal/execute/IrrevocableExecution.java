// SPDX-License-Identifier: Apache-2.0
package io.vacancy.jdbc.internal.execute;

import io.vacancy.failure.StoreException;
import io.vacancy.failure.VacancyException;
import io.vacancy.jdbc.internal.archive.ArchiveTables;
import io.vacancy.jdbc.internal.archive.ArchiveWriter;
import io.vacancy.jdbc.internal.operation.NotDroppedException;
import io.vacancy.jdbc.internal.operation.StoreOperation;
import io.vacancy.jdbc.internal.session.CommitUnknownException;
import io.vacancy.jdbc.internal.session.LockConflictException;
import io.vacancy.jdbc.internal.session.Transaction;
import io.vacancy.jdbc.internal.trail.BypassTable;
import io.vacancy.jdbc.internal.trail.TrailWriter;
import io.vacancy.preview.Impact;
import io.vacancy.schema.TableName;
import io.vacancy.spi.AffectedKeys;
import io.vacancy.spi.Decision;
import io.vacancy.spi.Records;
import io.vacancy.spi.Store.Ending;
import io.vacancy.trail.TrailEntry;
import java.util.List;
import org.jspecify.annotations.Nullable;

/**
 * The end of an execution that commits by itself. First what is archived, a receipt and an entry of the trail that say that it
 * is begun are committed; then it is done; then a second part of the receipt and an entry say that it was. Whenever this is
 * killed, what is there tells how far it came.
 *
 * @param writer null where nothing is kept
 */
record IrrevocableExecution(
        Transaction transaction,
        StoreOperation operation,
        @Nullable ArchiveWriter writer,
        ArchiveTables place,
        Decision decision,
        Impact found,
        List<AffectedKeys> affected) {

    Ending ending(TableName about) {
        try {
            begin(about);
        } catch (CommitUnknownException unknown) {
            throw new StoreException(
                    "The connection was lost while what is archived was committed: " + unknown.getMessage() + " Table "
                            + about + " is as it was.",
                    "See whether a copy was archived by vacancy history, then try again.",
                    "archiving",
                    about.toString(),
                    null,
                    unknown.getCause());
        }
        try {
            operation.run(found);
        } catch (NotDroppedException not) {
            return stillThere(not, about);
        }
        return done(about);
    }

    private void begin(TableName about) {
        if (writer != null) {
            if (writer.rows() > 0) {
                operation.archived(writer.rows());
            }
            write(writer, decision.begun(found, writer.part()));
        }
        transaction.commitSoFar(about);
    }

    private void write(ArchiveWriter writer, Records records) {
        new BypassTable(place.state())
                .uncover(transaction.session(), records.receipt().id().value());
        String document = writer.end(records.receipt());
        TrailEntry entry = records.entry();
        if (entry != null) {
            new TrailWriter(transaction.session(), place.tables())
                    .write(entry.with(writer.digests(document)), records.outbox());
        }
    }

    private Ending stillThere(NotDroppedException not, TableName about) {
        String reason = "Table " + about + " is as it was: " + not.getMessage();
        if (not.kind() == NotDroppedException.Kind.UNKNOWN) {
            return new Ending.InDoubt("The connection was lost while it was being done, so look whether it is there: "
                    + not.getMessage());
        }
        if (writer != null) {
            try {
                writer.withdraw();
                transaction.finish(about);
            } catch (VacancyException | LockConflictException | CommitUnknownException failed) {
                reason += " What was archived of it before is still in the archive.";
            }
        }
        return not.kind() == NotDroppedException.Kind.BUSY
                ? new Ending.Busy(about.toString(), reason)
                : new Ending.Refused(reason);
    }

    /** It cannot be taken back any more, so whatever fails now is told as what failed afterwards. */
    private Ending done(TableName about) {
        if (writer == null) {
            return new Ending.Committed(found, List.of());
        }
        try {
            writer.next();
            write(writer, decision.records(found, affected, writer.part()));
            transaction.finish(about);
            return new Ending.Committed(found, List.of());
        } catch (VacancyException | LockConflictException | CommitUnknownException failed) {
            return new Ending.Committed(
                    found, List.of("It was done, but the receipt says only that it was begun: " + failed.getMessage()));
        }
    }
}
