// SPDX-License-Identifier: Apache-2.0
package io.vacancy.cli.screen;

import io.vacancy.listener.Listener;
import io.vacancy.listener.Progress;
import io.vacancy.preview.CountText;
import io.vacancy.request.Request;
import java.time.Duration;
import java.util.Locale;
import org.jspecify.annotations.Nullable;

/**
 * How far the work is, on one line that is written over and taken away at the end. Only on a terminal. What
 * is told comes from the thread that works; the line is drawn by a thread of its own, so that time goes on
 * while the database is busy with one long statement.
 */
public final class ProgressLine implements Listener {

    private static final long REDRAWN_MILLIS = 250;
    private static final String CLEARED = "\r\033[2K";

    private final Screen screen;
    private @Nullable Progress last;
    private long toldAt;
    private @Nullable Thread drawing;

    ProgressLine(Screen screen) {
        this.screen = screen;
    }

    @Override
    public synchronized void progress(Request request, Progress progress) {
        last = progress;
        toldAt = System.nanoTime();
        if (drawing == null && screen.terminal()) {
            drawing = new Thread(this::draw, "vacancy-progress");
            drawing.setDaemon(true);
            drawing.start();
        }
    }

    private void draw() {
        try {
            while (drawOnce()) {
                Thread.sleep(REDRAWN_MILLIS);
            }
        } catch (InterruptedException over) {
            Thread.currentThread().interrupt();
        }
    }

    private synchronized boolean drawOnce() {
        if (last == null) {
            return false;
        }
        screen.err().print(CLEARED + text(last, Duration.ofNanos(System.nanoTime() - toldAt)));
        screen.err().flush();
        return true;
    }

    /** Takes the line away. */
    synchronized void clear() {
        if (drawing != null) {
            screen.err().print(CLEARED);
            screen.err().flush();
        }
        last = null;
        drawing = null;
    }

    /**
     * The line for progress that was told some time ago.
     *
     * @param since how long ago
     */
    static String text(Progress progress, Duration since) {
        StringBuilder line = new StringBuilder("  " + progress.step().word() + " " + progress.table() + "  ");
        Long expected = progress.expected();
        if (expected != null && expected > 0) {
            line.append(CountText.grouped(progress.done())).append(" of ");
            line.append(CountText.rows(expected))
                    .append(", ")
                    .append(progress.done() * 100 / expected)
                    .append(" %");
        } else {
            line.append(CountText.rows(progress.done()));
        }
        if (progress.rate() >= 1) {
            line.append("  ")
                    .append(CountText.grouped(Math.round(progress.rate())))
                    .append(" a second");
        }
        Duration rest = progress.rest();
        Duration left = rest == null ? null : rest.minus(since);
        if (left != null && progress.done() > 0) {
            line.append("  ").append(left.isNegative() ? "nearly there" : "about " + seconds(left) + " left");
        } else {
            line.append("  for ").append(seconds(progress.elapsed().plus(since)));
        }
        return line.append("  (Ctrl-C rolls it back)").toString();
    }

    private static String seconds(Duration time) {
        long seconds = Math.max(1, Math.round(time.toMillis() / 1000.0));
        return seconds < 120 ? seconds + " s" : String.format(Locale.ROOT, "%d min %d s", seconds / 60, seconds % 60);
    }
}
