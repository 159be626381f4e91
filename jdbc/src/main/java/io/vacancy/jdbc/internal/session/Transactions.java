// SPDX-License-Identifier: Apache-2.0
package io.vacancy.jdbc.internal.session;

import io.vacancy.spi.ExecutionMonitor;

/** Where transactions come from. */
@FunctionalInterface
public interface Transactions {

    Transaction begin(int keysInMemory, ExecutionMonitor monitor, String isolation);
}
