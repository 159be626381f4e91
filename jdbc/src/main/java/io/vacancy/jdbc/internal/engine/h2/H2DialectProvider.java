// SPDX-License-Identifier: Apache-2.0
package io.vacancy.jdbc.internal.engine.h2;

import io.vacancy.jdbc.spi.Dialect;
import io.vacancy.jdbc.spi.DialectProvider;

/** Finds H2. */
public final class H2DialectProvider implements DialectProvider {

    @Override
    public String engine() {
        return "H2";
    }

    @Override
    public Dialect dialect() {
        return new H2Dialect();
    }
}
