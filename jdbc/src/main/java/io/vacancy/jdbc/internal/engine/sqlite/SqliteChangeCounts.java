// SPDX-License-Identifier: Apache-2.0
package io.vacancy.jdbc.internal.engine.sqlite;

import io.vacancy.jdbc.spi.ChangeCounts;

/** SQLite: how it counts what is changed. */
final class SqliteChangeCounts implements ChangeCounts {

    @Override
    public String inAll() {
        return "SELECT total_changes()";
    }
}
