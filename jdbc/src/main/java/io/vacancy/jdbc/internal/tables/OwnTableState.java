// SPDX-License-Identifier: Apache-2.0
package io.vacancy.jdbc.internal.tables;

import io.vacancy.failure.MisuseException;
import io.vacancy.failure.NotSetUpException;
import io.vacancy.jdbc.OwnTables;
import io.vacancy.jdbc.spi.Dialect;
import io.vacancy.jdbc.spi.OwnTableModule;
import java.util.List;
import java.util.Map;

/**
 * Which of Vacancy's own tables one database has.
 *
 * @param versions of the modules whose tables are there; none where there are none
 * @param registered whether the database itself has a version for each module
 */
public record OwnTableState(OwnTables tables, Dialect dialect, Map<String, Integer> versions, boolean registered) {

    /**
     * Whether it is there.
     *
     * @throws MisuseException if it is of another version than this program works with, since going on without it
     *     would archive nothing of what is deleted
     */
    public boolean ready() {
        if (versions.isEmpty()) {
            return false;
        }
        for (OwnTableModule module : OwnTableRegistry.modules()) {
            int there = versions.getOrDefault(module.name(), 0);
            if (there == 0 && module.optional()) {
                continue;
            }
            if (there < module.version()) {
                throw new NotSetUpException(
                        "Vacancy's own tables of " + module.name() + " are of version " + there
                                + ", and this program works with version " + module.version() + ".",
                        "Bring them up to date, by archive().setUp(); what they keep stays.");
            }
            if (there > module.version()) {
                throw new MisuseException(
                        "Vacancy's own tables of " + module.name() + " are of version " + there
                                + ", and this program knows versions up to " + module.version() + ".",
                        "Use the newer program.");
            }
        }
        return true;
    }

    /** Whether something is there that not every database has. */
    public boolean has(String module) {
        return versions.getOrDefault(module, 0) > 0;
    }

    /** What makes it, or brings it up to date. */
    public List<String> script() {
        return OwnTableRegistry.script(tables, dialect, versions, registered);
    }
}
