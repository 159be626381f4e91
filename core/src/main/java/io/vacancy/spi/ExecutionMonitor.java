// SPDX-License-Identifier: Apache-2.0
package io.vacancy.spi;

import io.vacancy.archive.PersonKeys;
import io.vacancy.archive.SaveTarget;
import io.vacancy.listener.Cancellation;
import io.vacancy.listener.Progress;
import io.vacancy.listener.RowHandler;
import io.vacancy.preview.Impact;
import org.jspecify.annotations.Nullable;

/** Looks on while a store works. */
public interface ExecutionMonitor {

    /** Told how far it is; on the thread that does the work, several times a second at most. */
    default void progress(Progress progress) {}

    /** Told when a deadlock ended an attempt and another one begins. */
    default void retrying(int attempt, String why) {}

    /**
     * Takes each selected row as it stands under the locks, before it is removed; null where nobody wants them. They are
     * removed only if the ending says so.
     */
    default @Nullable RowHandler rowHandler() {
        return null;
    }

    /** Takes a copy of everything that is removed or changed, before it is; null where nobody wants one. */
    default @Nullable SaveTarget saveTarget() {
        return null;
    }

    /** The keys by which what is archived of persons is encrypted and read again; null where there are none. */
    default @Nullable PersonKeys personKeys() {
        return null;
    }

    /** Called when all is done and nothing is committed; null where nobody wants it. */
    default @Nullable BeforeCommit beforeCommit() {
        return null;
    }

    /** What is committed together with it. */
    @FunctionalInterface
    interface BeforeCommit {

        /**
         * What this throws undoes everything.
         *
         * @param connection what the store works on
         */
        void run(Impact found, Object connection) throws Exception;
    }

    /** By which the work can be given up, or null where nobody will. */
    default @Nullable Cancellation cancellation() {
        return null;
    }
}
