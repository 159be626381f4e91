// SPDX-License-Identifier: Apache-2.0
package io.vacancy.jdbc.internal.engine.mariadb;

import static org.assertj.core.api.Assertions.assertThat;

import io.vacancy.jdbc.spi.ErrorClasses.Fault;
import java.sql.SQLException;
import org.junit.jupiter.api.Test;

/** What the nodes of a cluster say, as it was seen on one. */
class MariadbErrorClassesTest {

    @Test
    void whatAClusterSaysIsNoRawFailure() {
        MariadbErrorClasses errors = new MariadbErrorClasses();
        assertThat(errors.of(new SQLException("wsrep_max_ws_rows exceeded", "HY000", 1180)))
                .isEqualTo(Fault.TOO_MUCH_AT_ONCE);
        assertThat(errors.of(new SQLException("(conn=7) Maximum writeset size exceeded", "HY000", 5)))
                .isEqualTo(Fault.TOO_MUCH_AT_ONCE);
        assertThat(errors.of(new SQLException("WSREP has not yet prepared node", "08S01", 1047)))
                .isEqualTo(Fault.BUSY);
        assertThat(errors.of(new SQLException("Deadlock found", "40001", 1213))).isEqualTo(Fault.DEADLOCK);
    }
}
