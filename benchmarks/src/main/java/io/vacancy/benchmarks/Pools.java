// SPDX-License-Identifier: Apache-2.0
package io.vacancy.benchmarks;

import com.zaxxer.hikari.HikariConfig;
import com.zaxxer.hikari.HikariDataSource;
import io.vacancy.engines.Database;
import io.vacancy.engines.Engine;

/** Pools that both sides of a measurement use. */
final class Pools {

    private Pools() {}

    /** In READ COMMITTED on every engine that has it. */
    @SuppressWarnings("MustBeClosedChecker")
    static HikariDataSource of(Database database, int connections) {
        HikariConfig config = new HikariConfig();
        config.setDataSource(database.source());
        config.setMaximumPoolSize(connections);
        if (database.engine() == Engine.MARIADB) {
            config.setTransactionIsolation("TRANSACTION_READ_COMMITTED");
        }
        return new HikariDataSource(config);
    }
}
