// SPDX-License-Identifier: Apache-2.0
package io.vacancy.jobs.order;

import io.vacancy.jobs.pace.BatchSize;
import io.vacancy.jobs.pace.Throttling;
import io.vacancy.jobs.timing.Recurrence;
import io.vacancy.jobs.timing.Window;
import java.util.List;
import java.util.Map;
import org.jspecify.annotations.Nullable;

/**
 * How a job works, as it was ordered.
 *
 * @param pace can be changed while it runs
 * @param window when it may work, or null for always
 * @param every when it recurs, or null
 * @param lanes on how many connections
 * @param context what the application keeps with it
 * @param recipients whom the notifiers tell
 */
public record JobSettings(
        ChangePolicy onChange,
        BatchSize batches,
        Throttling pace,
        @Nullable Window window,
        @Nullable Recurrence every,
        int lanes,
        Map<String, String> context,
        List<String> recipients) {

    public JobSettings {
        context = Map.copyOf(context);
        recipients = List.copyOf(recipients);
    }

    /** What an order says. */
    public static JobSettings of(JobOrder order) {
        return new JobSettings(
                order.onChange(),
                order.batches(),
                order.pace(),
                order.window(),
                order.every(),
                order.lanes(),
                order.context(),
                order.recipients());
    }

    /** The same at another pace. */
    public JobSettings at(Throttling other) {
        return new JobSettings(onChange, batches, other, window, every, lanes, context, recipients);
    }
}
