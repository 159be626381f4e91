// SPDX-License-Identifier: Apache-2.0
package io.vacancy.preview;

import io.vacancy.schema.Row;
import java.util.List;

/**
 * A number of rows and a few of them.
 *
 * @param sample at most as many as a preview shows; of rows that do not exist, just the keys asked for
 */
public record RowSample(long rows, List<Row> sample) {

    public static final RowSample NONE = new RowSample(0, List.of());

    public RowSample {
        sample = List.copyOf(sample);
    }
}
