// SPDX-License-Identifier: Apache-2.0
package io.vacancy.cli.screen;

import io.vacancy.listener.Cancellation;
import java.io.IOException;
import java.util.concurrent.Callable;
import java.util.concurrent.CountDownLatch;
import java.util.concurrent.TimeUnit;
import java.util.function.Supplier;
import org.jspecify.annotations.Nullable;

/**
 * What Ctrl-C does: while somebody is asked, it ends the process and says that nothing was changed; while rows are being worked
 * on, it has the work given up and rolled back, and lets the process tell so before it ends. Anywhere else it ends the process at
 * once.
 */
public final class Interruption {

    private static final long PATIENCE_SECONDS = 60;

    private final Cancellation cancellation = new Cancellation();
    private final CountDownLatch told = new CountDownLatch(1);
    private volatile boolean working;
    private volatile @Nullable Runnable asking;

    /** For this process; to be made once. */
    static Interruption ofProcess() {
        Interruption interruption = new Interruption();
        Runtime.getRuntime().addShutdownHook(new Thread(interruption::interrupted, "vacancy-interrupted"));
        return interruption;
    }

    private void interrupted() {
        Runnable leaving = asking;
        if (leaving != null) {
            leaving.run();
            return;
        }
        if (!working) {
            return;
        }
        cancellation.cancel();
        try {
            told.await(PATIENCE_SECONDS, TimeUnit.SECONDS);
        } catch (InterruptedException given) {
            Thread.currentThread().interrupt();
        }
    }

    public Cancellation cancellation() {
        return cancellation;
    }

    /** Does work that may be given up. */
    public <T> T during(Supplier<T> work) {
        working = true;
        try {
            return work.get();
        } finally {
            // Stays so after a cancellation, since what happened is still to be told.
            working = cancellation.cancelled();
        }
    }

    /**
     * Waits for an answer before anything is done.
     *
     * @param leaving says so if the process is ended instead
     */
    public <T> T whileAsking(Callable<T> answer, Runnable leaving) throws IOException {
        asking = leaving;
        try {
            return answer.call();
        } catch (IOException | RuntimeException failed) {
            throw failed;
        } catch (Exception other) {
            throw new IllegalStateException(other);
        } finally {
            asking = null;
        }
    }

    /** Everything has been told; the process may end. */
    public void over() {
        told.countDown();
    }
}
