package io.vacancy.jdbc;

import io.vacancy.store.ExecutionMonitor;

/** Where transactions come from. */
@FunctionalInterface
interface Transactions {

    Transaction begin(int keysInMemory, ExecutionMonitor monitor, String isolation);
}
