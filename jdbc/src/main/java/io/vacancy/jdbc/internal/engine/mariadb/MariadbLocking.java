// SPDX-License-Identifier: Apache-2.0
package io.vacancy.jdbc.internal.engine.mariadb;

import io.vacancy.jdbc.spi.Locking;
import io.vacancy.jdbc.spi.WaitSetting;
import java.time.Duration;

/** MariaDB: how rows are locked, how long that is waited for, and what a transaction sees. */
final class MariadbLocking implements Locking {

    @Override
    public WaitSetting waitSetting() {
        return new WaitSetting(
                "SELECT @@innodb_lock_wait_timeout",
                "SET SESSION innodb_lock_wait_timeout = %s",
                Duration.ofSeconds(1));
    }

    @Override
    public String setIsolation(String level) {
        return "SET TRANSACTION ISOLATION LEVEL " + level;
    }

    @Override
    public boolean parentsLockOutChildren() {
        return true;
    }

    @Override
    public boolean deadlockEndsTransaction() {
        return true;
    }
}
