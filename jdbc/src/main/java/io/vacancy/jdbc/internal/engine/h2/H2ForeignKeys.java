// SPDX-License-Identifier: Apache-2.0
package io.vacancy.jdbc.internal.engine.h2;

import io.vacancy.jdbc.spi.ForeignKeys;

/** H2: how an engine checks foreign keys. */
final class H2ForeignKeys implements ForeignKeys {

    @Override
    public ClosedCircle closedCircle() {
        return ClosedCircle.LEAVES_FIRST;
    }
}
