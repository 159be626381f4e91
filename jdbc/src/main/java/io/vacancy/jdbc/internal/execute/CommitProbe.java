// SPDX-License-Identifier: Apache-2.0
package io.vacancy.jdbc.internal.execute;

import io.vacancy.failure.VacancyException;
import io.vacancy.jdbc.internal.archive.ArchiveWriter;
import io.vacancy.jdbc.internal.session.CommitUnknownException;
import io.vacancy.jdbc.internal.session.LockConflictException;
import io.vacancy.jdbc.internal.session.Transaction;
import io.vacancy.spi.plan.ExecutionPlan;
import java.time.Duration;
import org.slf4j.Logger;
import org.slf4j.LoggerFactory;

/**
 * Finds out what became of a commit that got no answer. It inserts the same receipt, whose identifier is unique, in a
 * transaction of its own: while the other one may still be committed, the insertion waits for it; if it was committed, the
 * insertion fails; and if the insertion succeeds, the other one is rolled back and can never be committed any more. Looking
 * alone would not do, since a commit may arrive after the look.
 */
record CommitProbe(StoreContext context, ExecutionPlan plan, int part) {

    private static final Logger LOG = LoggerFactory.getLogger(CommitProbe.class);

    private static final int TRIES = 6;
    private static final long FIRST_PAUSE_MILLIS = 50;
    private static final Duration PATIENCE = Duration.ofSeconds(3);

    /** What is known of the commit. */
    enum Result {
        COMMITTED,
        ROLLED_BACK,
        UNKNOWN
    }

    Result result() {
        long pause = FIRST_PAUSE_MILLIS;
        for (int i = 0; i < TRIES; i++) {
            try {
                return probe();
            } catch (LockConflictException stillOpen) {
                LOG.debug("the transaction in doubt is still open: {}", stillOpen.getMessage());
                return Result.UNKNOWN;
            } catch (VacancyException | CommitUnknownException unreachable) {
                LOG.debug("the database cannot be reached yet: {}", unreachable.getMessage());
            }
            try {
                Thread.sleep(pause);
            } catch (InterruptedException interrupted) {
                Thread.currentThread().interrupt();
                return Result.UNKNOWN;
            }
            pause *= 2;
        }
        return Result.UNKNOWN;
    }

    private Result probe() {
        // Never committed: closing it takes the receipt back.
        try (Transaction transaction = context.beginOwn(0)) {
            transaction.limitWaiting(PATIENCE);
            ArchiveWriter writer =
                    new ArchiveWriter(transaction.session(), context.archive().tables(), plan.archivePolicy());
            return writer.provesCommitted(plan.program().root(), part) ? Result.COMMITTED : Result.ROLLED_BACK;
        }
    }
}
