// SPDX-License-Identifier: Apache-2.0
package io.vacancy.listener;

import java.util.Set;
import java.util.concurrent.ConcurrentHashMap;

/**
 * By which one thread has another one give up what it is doing. What was given up is rolled back whole, and
 * ends in a {@link io.vacancy.failure.CancelledException}. Serves all threads; once cancelled it stays so.
 */
public final class Cancellation {

    private static final long AGAIN_MILLIS = 100;

    private volatile boolean cancelled;
    private final Set<Runnable> running = ConcurrentHashMap.newKeySet();

    /**
     * Gives up what is going on, and whatever is begun with this later. Returns at once; the thread that works
     * comes to its end by itself.
     */
    public void cancel() {
        if (cancelled) {
            return;
        }
        cancelled = true;
        Thread insisting = new Thread(this::insist, "vacancy-cancel");
        insisting.setDaemon(true);
        insisting.start();
    }

    public boolean cancelled() {
        return cancelled;
    }

    /** A statement may be caught just before it starts, and hears nothing then; hence again and again. */
    private void insist() {
        try {
            while (!running.isEmpty()) {
                running.forEach(this::interrupt);
                Thread.sleep(AGAIN_MILLIS);
            }
        } catch (InterruptedException given) {
            Thread.currentThread().interrupt();
        }
    }

    /** Never after the step has ended: what comes next is the rollback, which must not be interrupted. */
    private void interrupt(Runnable step) {
        synchronized (step) {
            if (running.contains(step)) {
                step.run();
            }
        }
    }

    /**
     * Called by a store around each step that can be interrupted.
     *
     * @param interrupt interrupts the step, from another thread and possibly more than once
     * @return the end of the step, to be closed on the thread that does it
     */
    public Step during(Runnable interrupt) {
        running.add(interrupt);
        return () -> {
            synchronized (interrupt) {
                running.remove(interrupt);
            }
        };
    }

    /** A step that can be interrupted. */
    @FunctionalInterface
    public interface Step extends AutoCloseable {
        @Override
        void close();
    }
}
