// SPDX-License-Identifier: Apache-2.0
package io.vacancy.jobs.watch;

import java.util.ArrayList;
import java.util.List;
import java.util.Locale;

/** How a job stands, in words. */
final class JobMessages {

    private JobMessages() {}

    static String of(Job job) {
        JobProgress progress = job.progress();
        String done = done(progress);
        return switch (job.state()) {
            case SCHEDULED ->
                "Job " + job.name() + " is scheduled" + (job.dueAt() == null ? "" : " for " + job.dueAt())
                        + (job.startedAt() == null ? "; nothing is done yet." : "; the last run: " + done + ".");
            case RUNNING ->
                "Job " + job.name() + " is in progress: " + done + "."
                        + (progress.note() == null ? "" : " It holds back: " + progress.note() + ".");
            case WAITING ->
                "Job " + job.name() + " waits" + (job.dueAt() == null ? "" : " until " + job.dueAt()) + ": " + done
                        + "." + (job.reason() == null ? "" : " " + job.reason());
            case PAUSED -> "Job " + job.name() + " is paused: " + done + ".";
            case DONE -> "Job " + job.name() + " is done: " + done + ".";
            case FAILED -> "Job " + job.name() + " failed: " + job.reason() + " " + kept(progress, done);
            case CANCELLED -> "Job " + job.name() + " was cancelled. " + kept(progress, done);
        };
    }

    private static String kept(JobProgress progress, String done) {
        Long selected = progress.selected();
        String left = selected == null ? "" : "; " + number(selected - progress.handled()) + " selected rows are left";
        return progress.rows() == 0 ? "Nothing was changed." : "What was committed stays: " + done + left + ".";
    }

    private static String done(JobProgress progress) {
        List<String> told = new ArrayList<>();
        Long selected = progress.selected();
        told.add(number(progress.handled())
                + (selected == null ? " selected rows" : " of " + number(selected) + " selected rows") + " handled, "
                + number(progress.rows()) + " rows in all");
        left(told, progress.changed(), "changed since they were shown");
        left(told, progress.missing(), "gone already");
        left(told, progress.skipped(), "skipped because something blocks them");
        return String.join("; ", told);
    }

    private static void left(List<String> told, long rows, String why) {
        if (rows > 0) {
            told.add(number(rows) + " " + why);
        }
    }

    private static String number(long number) {
        return String.format(Locale.ROOT, "%,d", number);
    }
}
