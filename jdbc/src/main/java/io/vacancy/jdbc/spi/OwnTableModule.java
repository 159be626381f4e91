// SPDX-License-Identifier: Apache-2.0
package io.vacancy.jdbc.spi;

import java.util.List;

/**
 * Tables of its own that a part of Vacancy keeps in the user's database, with a version of their own. Found by
 * {@link java.util.ServiceLoader}; set up and brought up to date together with all others.
 */
public interface OwnTableModule {

    /** What the registry in the database calls it: up to 40 lower-case letters. */
    String name();

    /** The version that this program works with, from 1. */
    int version();

    /** The names of its tables, without the prefix. */
    List<String> tables();

    /**
     * The statements that bring the tables up to date. A version that was ever released is never changed; what is new
     * becomes a version of its own.
     *
     * @param from the version that is there; 0 where none is
     */
    List<String> upgrade(int from, OwnTableScript script);

    /** Whether there is only something of it where somebody has asked for it. */
    default boolean optional() {
        return false;
    }
}
