// SPDX-License-Identifier: Apache-2.0
package io.vacancy.jdbc.internal.engine.postgresql;

import io.vacancy.jdbc.spi.Locking;
import io.vacancy.jdbc.spi.WaitSetting;
import java.time.Duration;

/** PostgreSQL: how rows are locked, how long that is waited for, and what a transaction sees. */
final class PostgresqlLocking implements Locking {

    @Override
    public WaitSetting waitSetting() {
        return new WaitSetting("SHOW lock_timeout", "SET LOCAL lock_timeout = '%s'", Duration.ofMillis(1));
    }

    @Override
    public String setIsolation(String level) {
        return "SET TRANSACTION ISOLATION LEVEL " + level;
    }

    @Override
    public boolean parentsLockOutChildren() {
        return true;
    }
}
