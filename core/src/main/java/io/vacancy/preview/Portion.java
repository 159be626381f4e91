package io.vacancy.preview;

import io.vacancy.schema.Row;
import java.util.List;

/**
 * A number of rows and a few of them.
 *
 * @param sample at most as many as a preview shows; of rows that do not exist, just the keys asked for
 */
public record Portion(long rows, List<Row> sample) {

    public static final Portion NONE = new Portion(0, List.of());

    public Portion {
        sample = List.copyOf(sample);
    }
}
