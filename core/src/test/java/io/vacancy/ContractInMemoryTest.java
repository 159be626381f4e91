// SPDX-License-Identifier: Apache-2.0
package io.vacancy;

import io.vacancy.schema.Row;
import io.vacancy.spi.Store;
import io.vacancy.test.MemoryStore;
import io.vacancy.test.StoreContract;
import java.util.List;

class ContractInMemoryTest extends StoreContract {

    @Override
    protected Store store(List<Row> rows) {
        MemoryStore store = MemoryStore.of(SCHEMA);
        rows.forEach(row ->
                store.insert(row.table().toString(), row.values().values().toArray()));
        return store;
    }

    @Override
    protected long count(Store store, String table) {
        return ((MemoryStore) store).rows(table).size();
    }
}
