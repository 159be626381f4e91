package io.vacancy.spi;

import io.vacancy.listener.Cancellation;
import io.vacancy.listener.Progress;
import org.jspecify.annotations.Nullable;

/** Looks on while a store works. */
public interface ExecutionMonitor {

    /** Told how far it is; on the thread that does the work, several times a second at most. */
    default void progress(Progress progress) {}

    /** Told when a deadlock ended an attempt and another one begins. */
    default void retrying(int attempt, String why) {}

    /** By which the work can be given up, or null where nobody will. */
    default @Nullable Cancellation cancellation() {
        return null;
    }
}
