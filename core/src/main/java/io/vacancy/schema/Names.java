// SPDX-License-Identifier: Apache-2.0
package io.vacancy.schema;

import io.vacancy.failure.MisuseException;
import io.vacancy.internal.argument.NearestName;
import java.util.Collection;
import java.util.List;
import org.jspecify.annotations.Nullable;

/**
 * Matches names as engines match those that are not quoted: as they are known, or else in another case, where only one known
 * name can be meant.
 */
final class Names {

    private Names() {}

    /** The known name that is meant, or null if there is none, or several could be. */
    static @Nullable String matching(String written, Collection<String> known) {
        if (known.contains(written)) {
            return written;
        }
        List<String> alike =
                known.stream().filter(name -> name.equalsIgnoreCase(written)).toList();
        return alike.size() == 1 ? alike.get(0) : null;
    }

    /**
     * The known name that is meant.
     *
     * @param what of what kind it is, such as {@code Column}
     * @param where in what it is looked for, such as {@code table boat}
     * @throws MisuseException if there is none, with the nearest one, or several could be meant
     */
    static String known(String written, Collection<String> known, String what, String where) {
        String meant = matching(written, known);
        if (meant != null) {
            return meant;
        }
        List<String> alike =
                known.stream().filter(name -> name.equalsIgnoreCase(written)).toList();
        if (!alike.isEmpty()) {
            throw new MisuseException(
                    what + " " + written + " of " + where + " could be " + String.join(" or ", alike) + ".",
                    "Write it as the database has it.");
        }
        throw new MisuseException(what + " " + written + " is not in " + where + NearestName.question(written, known));
    }
}
