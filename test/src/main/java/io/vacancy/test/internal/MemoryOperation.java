// SPDX-License-Identifier: Apache-2.0
package io.vacancy.test.internal;

import io.vacancy.preview.Impact;
import io.vacancy.schema.Row;
import io.vacancy.spi.AffectedKeys;
import java.util.List;

/** What one operation finds and does in memory. */
interface MemoryOperation {

    Impact impact();

    /** The selected rows. */
    List<Row> rows();

    /** The rows that something is done to, by effect. */
    List<AffectedKeys> affected(int most);

    /** Does it. */
    void run();
}
