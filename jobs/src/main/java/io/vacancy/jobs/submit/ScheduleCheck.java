// SPDX-License-Identifier: Apache-2.0
package io.vacancy.jobs.submit;

import io.vacancy.failure.MisuseException;
import io.vacancy.failure.Problem;
import io.vacancy.jobs.order.JobOrder;
import io.vacancy.jobs.timing.Recurrence;
import io.vacancy.jobs.timing.Window;
import io.vacancy.request.DeletionSchedule;
import io.vacancy.request.NamedDeletion;
import io.vacancy.request.Request;
import io.vacancy.rules.ResolvedRules;
import java.time.ZoneId;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.Objects;

/** What a rule book says of deletions that recur by themselves. */
public final class ScheduleCheck {

    private ScheduleCheck() {}

    /** What is wrong with it: all of it, with the places where it stands. */
    public static List<Problem> of(ResolvedRules rules) {
        Objects.requireNonNull(rules, "rules");
        List<Problem> problems = new ArrayList<>();
        for (NamedDeletion deletion : rules.deletions()) {
            DeletionSchedule schedule = deletion.schedule();
            if (schedule != null) {
                try {
                    order(deletion, schedule, ZoneId.systemDefault());
                } catch (MisuseException wrong) {
                    problems.add(new Problem(
                            true, "Deletion " + deletion.name() + ": " + wrong.getMessage(), deletion.place()));
                }
            }
        }
        return problems;
    }

    /**
     * The order of a deletion that recurs.
     *
     * @param zone the one of times that name none
     * @throws MisuseException if it says in words that are not understood when
     */
    public static JobOrder order(NamedDeletion deletion, DeletionSchedule schedule, ZoneId zone) {
        Request request = deletion.request(Map.of()).withoutConfirmation("recurs by the rule book");
        JobOrder order = JobOrder.of(request).named(deletion.name()).every(Recurrence.read(schedule.every(), zone));
        String window = schedule.window();
        order = window == null ? order : order.within(Window.read(window, zone));
        Long batch = schedule.batch();
        return batch == null ? order : order.batches(order.batches().atMost(batch));
    }
}
