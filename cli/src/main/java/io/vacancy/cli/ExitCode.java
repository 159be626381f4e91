// SPDX-License-Identifier: Apache-2.0
package io.vacancy.cli;

import io.vacancy.failure.BusyException;
import io.vacancy.failure.MisuseException;
import io.vacancy.failure.RuleBookException;
import io.vacancy.failure.TrailIntegrityException;
import io.vacancy.failure.VacancyException;
import io.vacancy.outcome.Outcome;
import io.vacancy.preview.Preview;
import java.util.LinkedHashMap;
import java.util.Map;

/** The exit codes of all commands. */
public final class ExitCode {

    public static final int DONE = 0;
    public static final int FAILED = 1;
    public static final int WRONG_USAGE = 2;
    public static final int NOTHING = 3;
    public static final int BLOCKED = 4;
    public static final int DECLINED = 5;
    public static final int CHANGED = 6;
    public static final int BUSY = 7;
    public static final int REFUSED = 8;
    public static final int FOUND_WRONG = 9;
    public static final int IN_DOUBT = 10;

    public static final int INTERRUPTED = 130;

    private ExitCode() {}

    /** What each says, in their order. */
    public static Map<Integer, String> meanings() {
        Map<Integer, String> meanings = new LinkedHashMap<>();
        meanings.put(DONE, "done");
        meanings.put(FAILED, "failed");
        meanings.put(WRONG_USAGE, "wrong usage");
        meanings.put(NOTHING, "nothing selected");
        meanings.put(BLOCKED, "blocked");
        meanings.put(DECLINED, "declined");
        meanings.put(CHANGED, "changed since the preview");
        meanings.put(BUSY, "busy");
        meanings.put(REFUSED, "refused, or waits for an approval");
        meanings.put(FOUND_WRONG, "a check found something wrong");
        meanings.put(IN_DOUBT, "in doubt");
        meanings.put(INTERRUPTED, "interrupted");
        return meanings;
    }

    public static int of(Preview preview) {
        return switch (preview.state()) {
            case READY -> DONE;
            case BLOCKED -> BLOCKED;
            case NOTHING -> NOTHING;
            case REFUSED -> REFUSED;
        };
    }

    public static int of(Outcome outcome) {
        return switch (outcome.state()) {
            case DONE -> DONE;
            case NOTHING -> NOTHING;
            case BLOCKED -> BLOCKED;
            case DECLINED -> DECLINED;
            case CHANGED -> CHANGED;
            case BUSY -> BUSY;
            case REFUSED, WAITING -> REFUSED;
            case IN_DOUBT -> IN_DOUBT;
        };
    }

    public static int of(VacancyException failed) {
        if (failed instanceof MisuseException || failed instanceof RuleBookException) {
            return WRONG_USAGE;
        }
        if (failed instanceof TrailIntegrityException) {
            return FOUND_WRONG;
        }
        return failed instanceof BusyException ? BUSY : FAILED;
    }
}
