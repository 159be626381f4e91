// SPDX-License-Identifier: Apache-2.0
package io.vacancy.jdbc.spi;

import io.vacancy.spi.WatchedTable;
import java.util.List;

/**
 * How triggers are written that see what is done around Vacancy: they look for a row of the table {@code executing}, which a
 * transaction has only while Vacancy works in it, and write to the table {@code bypass}, or refuse. By default an engine
 * has none.
 */
public interface BypassTriggers {

    /** What the names of all of them begin with, after the prefix of Vacancy's own tables. */
    String NAME = "bypass_";

    /** What they all need, before the first one. */
    default List<String> before(OwnTableScript script, boolean refusing) {
        return List.of();
    }

    /** The triggers of one table; none where the engine has none in SQL. */
    default List<String> of(WatchedTable table, OwnTableScript script, boolean refusing) {
        return List.of();
    }
}
