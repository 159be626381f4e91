// SPDX-License-Identifier: Apache-2.0
package io.vacancy.request;

import io.vacancy.failure.MisuseException;
import io.vacancy.internal.argument.Arguments;
import org.jspecify.annotations.Nullable;

/**
 * When a deletion of the rule book is carried out by itself, as a job; read by whoever runs jobs.
 *
 * @param every when it recurs, such as {@code 03:00}, {@code PT6H} or the five fields of crontab
 * @param window the hours in which it may work, such as {@code 22:00-05:30}, or null for always
 * @param batch how many rows a transaction may have, or null for as many as the database takes
 */
public record DeletionSchedule(
        String every, @Nullable String window, @Nullable Long batch) {

    public DeletionSchedule {
        Arguments.notBlank(every, "every");
        if (batch != null && batch < 1) {
            throw new MisuseException("A batch must have 1 or more rows, not " + batch + ".");
        }
    }

    /** At all hours, in batches as the database takes them. */
    public static DeletionSchedule every(String time) {
        return new DeletionSchedule(time, null, null);
    }
}
