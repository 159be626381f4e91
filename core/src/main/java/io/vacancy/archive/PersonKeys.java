// SPDX-License-Identifier: Apache-2.0
package io.vacancy.archive;

import java.util.List;
import org.jspecify.annotations.Nullable;

/**
 * The keys of persons, kept by the application outside the database and its backups, such as in a key management service or in
 * {@link FilePersonKeys a folder}. Once a person's key is destroyed, what is archived of the person's values can be read
 * nowhere, backups included. Serves all threads; what it throws undoes what was being done.
 */
public interface PersonKeys {

    /**
     * The key of a person; made, and kept for good, if there is none.
     *
     * @param table the table of persons, as the database has it
     * @param key the key of the person's row, as texts
     */
    PersonKey of(String table, List<String> key);

    /** The key with this identifier; null where it was destroyed. */
    @Nullable
    PersonKey find(String id);

    /**
     * Destroys the key of a person, so that nobody has it any more.
     *
     * @return whether there was one
     */
    boolean destroy(String table, List<String> key);
}
