// SPDX-License-Identifier: Apache-2.0
package io.vacancy.request;

import io.vacancy.failure.MisuseException;
import io.vacancy.internal.argument.Arguments;
import java.util.List;
import java.util.Locale;

/**
 * A column that rows are put in order by; where NULL stands in it is for the database to say.
 *
 * @param descending whether the greatest comes first
 */
public record Order(String column, boolean descending) {

    public Order {
        Arguments.notBlank(column, "column");
    }

    /**
     * Reads {@code left_on} or {@code left_on desc}.
     *
     * @throws MisuseException if it is neither
     */
    public static Order read(String written) {
        Arguments.notNull(written, "written");
        String[] words = written.strip().split("\\s+");
        String way = words.length == 2 ? words[1].toLowerCase(Locale.ROOT) : "asc";
        if (words.length > 2 || words[0].isEmpty() || !List.of("asc", "desc").contains(way)) {
            throw new MisuseException(
                    "\"" + written + "\" is not an order.", "Give a column, or a column and desc: \"left_on desc\".");
        }
        return new Order(words[0], way.equals("desc"));
    }

    @Override
    public String toString() {
        return column + (descending ? " desc" : "");
    }
}
