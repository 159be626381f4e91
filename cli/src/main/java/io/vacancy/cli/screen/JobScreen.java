// SPDX-License-Identifier: Apache-2.0
package io.vacancy.cli.screen;

import io.vacancy.jobs.pace.Throttling;
import io.vacancy.jobs.timing.Recurrence;
import io.vacancy.jobs.timing.Window;
import io.vacancy.jobs.watch.Job;
import io.vacancy.jobs.watch.JobProgress;
import io.vacancy.jobs.watch.JobState;
import io.vacancy.preview.CountText;
import java.time.Duration;
import java.time.Instant;
import java.util.ArrayList;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.TreeMap;
import org.jspecify.annotations.Nullable;

/** Jobs, for people. */
public final class JobScreen {

    private static final int BAR = 20;
    private static final int LONGEST_NAME = 30;

    private final TextLayout layout;
    private final AnsiStyle style;

    public JobScreen(TextLayout layout) {
        this.layout = layout;
        this.style = layout.style();
    }

    /** What is told of a job that was just ordered. */
    public List<String> ordered(Job job, boolean repeated) {
        List<String> lines = new ArrayList<>();
        lines.add(
                repeated
                        ? "Job " + style.strong(job.name()) + " was ordered before, under the same id: "
                                + job.state().word() + "."
                        : style.settled("Ordered.") + " Nothing is done yet: job " + style.strong(job.name()) + " "
                                + begins(job) + ".");
        return lines;
    }

    private static String begins(Job job) {
        Instant due = job.dueAt();
        return due == null || !due.isAfter(job.submittedAt()) ? "waits for a node" : "begins at " + time(due);
    }

    /** All jobs, a line each. */
    public List<String> list(List<Job> jobs) {
        TextTable table = new TextTable(false, false, true, true, false, false);
        table.line();
        for (String heading : List.of("job", "state", "selected", "rows", "left", "by")) {
            table.cell(heading, style::quiet);
        }
        for (Job job : jobs) {
            JobProgress progress = job.progress();
            table.line()
                    .cell(job.name(), style::strong)
                    .cell(job.state().word(), text -> state(job, text))
                    .cell(selected(progress))
                    .cell(CountText.grouped(progress.rows()))
                    .cell(left(job))
                    .cell(job.by());
        }
        return table.lines("", layout);
    }

    private String state(Job job, String text) {
        return switch (job.state()) {
            case DONE, RUNNING -> style.settled(text);
            case FAILED, CANCELLED -> style.standing(text);
            default -> text;
        };
    }

    private static String selected(JobProgress progress) {
        Long selected = progress.selected();
        if (selected == null) {
            return progress.handled() == 0 ? "" : CountText.grouped(progress.handled());
        }
        return CountText.grouped(progress.handled()) + " of " + CountText.grouped(selected);
    }

    private static String left(Job job) {
        Duration remaining = job.progress().remaining();
        Instant due = job.dueAt();
        if (job.state() == JobState.RUNNING && remaining != null) {
            return "about " + duration(remaining);
        }
        if (job.state().over() || due == null || !due.isAfter(Instant.now())) {
            return "";
        }
        return "from " + time(due);
    }

    /** How far it is, on one line that fits a terminal. */
    public String line(Job job) {
        return cut(job.name()) + "  " + bar(job);
    }

    private String bar(Job job) {
        JobProgress progress = job.progress();
        StringBuilder line = new StringBuilder();
        Double share = progress.share();
        if (share != null) {
            int full = (int) (share * BAR);
            line.append(style.settled("█".repeat(full)))
                    .append(style.quiet("░".repeat(BAR - full)))
                    .append(String.format(Locale.ROOT, " %3d %%  ", (int) (share * 100)));
        }
        String counts = selected(progress);
        line.append(job.state().word()).append(counts.isEmpty() ? "" : "  " + counts);
        line.append("  ").append(CountText.rows(progress.rows()));
        if (job.state() == JobState.RUNNING) {
            String note = progress.note();
            if (note != null) {
                return line.append("  ").append(note).toString();
            }
            if (progress.rate() >= 1) {
                line.append("  ")
                        .append(CountText.grouped(Math.round(progress.rate())))
                        .append("/s");
            }
            Duration remaining = progress.remaining();
            if (remaining != null) {
                line.append("  ").append(duration(remaining)).append(" left");
            }
        }
        return line.toString();
    }

    private static String cut(String name) {
        return name.length() <= LONGEST_NAME ? name : name.substring(0, LONGEST_NAME - 1) + "…";
    }

    /** All that there is to say of one. */
    public List<String> lines(Job job) {
        List<String> lines = new ArrayList<>();
        lines.add(style.strong(job.name()) + "  " + state(job, job.state().word()) + "  " + job.title());
        JobProgress progress = job.progress();
        if (progress.share() != null) {
            lines.add("  " + bar(job));
        }
        TextTable rows = new TextTable(true, false);
        for (Map.Entry<String, Long> table : new TreeMap<>(progress.tables()).entrySet()) {
            rows.line().cell(CountText.grouped(table.getValue())).cell("in " + table.getKey());
        }
        count(rows, progress.changed(), "left out: changed since they were shown");
        count(rows, progress.missing(), "left out: gone already, or matching no more");
        count(rows, progress.skipped(), "skipped: something blocks them");
        lines.addAll(rows.lines("  ", layout));
        FactTable facts = new FactTable(layout);
        facts.add("reason", job.reason());
        facts.add("receipt", job.receipt());
        facts.add("by", job.by());
        facts.add("ordered", time(job.submittedAt()));
        Instant due = job.dueAt();
        facts.add("due", due == null ? null : time(due));
        Instant started = job.startedAt();
        facts.add("began", started == null ? null : time(started));
        Instant ended = job.endedAt();
        facts.add("ended", ended == null ? null : time(ended));
        facts.add(
                "batches",
                progress.batches() == 0
                        ? null
                        : CountText.grouped(progress.batches())
                                + (progress.retries() == 0
                                        ? ""
                                        : ", " + CountText.grouped(progress.retries()) + " tried again"));
        facts.add("on change", job.settings().onChange().word());
        Window window = job.settings().window();
        facts.add("window", window == null ? null : window.written());
        Recurrence every = job.settings().every();
        facts.add("every", every == null ? null : every.written());
        facts.add("pace", pace(job.settings().pace()));
        facts.add("run", job.run() == 1 ? null : job.run());
        lines.addAll(facts.lines("  "));
        return lines;
    }

    private static @Nullable String pace(Throttling pace) {
        Double rows = pace.rowsPerSecond();
        String most = rows == null ? "" : CountText.grouped(Math.round(rows)) + " rows a second at most";
        String share = pace.share() == 1 ? "" : Math.round(pace.share() * 100) + " % of the time";
        return most.isEmpty() && share.isEmpty()
                ? null
                : most + (most.isEmpty() || share.isEmpty() ? "" : ", ") + share;
    }

    private static void count(TextTable rows, long count, String what) {
        if (count > 0) {
            rows.line().cell(CountText.grouped(count)).cell(what);
        }
    }

    private static String time(Instant time) {
        return LocalTime.seconds(time);
    }

    private static String duration(Duration time) {
        long seconds = Math.max(1, Math.round(time.toMillis() / 1000.0));
        if (seconds < 120) {
            return seconds + " s";
        }
        long minutes = seconds / 60;
        return minutes < 120 ? minutes + " min" : minutes / 60 + " h " + minutes % 60 + " min";
    }
}
