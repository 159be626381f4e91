// SPDX-License-Identifier: Apache-2.0
package io.vacancy.jdbc.internal.archive;

import io.vacancy.access.ScopeMarks;
import io.vacancy.archive.ArchiveQuery;
import io.vacancy.archive.ArchivedRows;
import io.vacancy.archive.Hold;
import io.vacancy.archive.ReceiptId;
import io.vacancy.jdbc.internal.schema.SchemaCache;
import io.vacancy.jdbc.internal.tables.OwnTableTransactions;
import io.vacancy.json.JsonReader;
import io.vacancy.outcome.Receipt;
import io.vacancy.request.OperationKind;
import io.vacancy.schema.TableName;
import io.vacancy.spi.ArchiveStore;
import io.vacancy.spi.ExecutionTime;
import io.vacancy.trail.TrailEntry;
import java.time.Instant;
import java.util.List;
import java.util.Optional;
import java.util.stream.Stream;
import org.jspecify.annotations.Nullable;

/** Receipts and images in the user's own database. */
public final class JdbcArchive implements ArchiveStore {

    private final SchemaCache catalog;
    private final OwnTableTransactions transactions;

    public JdbcArchive(SchemaCache catalog, OwnTableTransactions transactions) {
        this.catalog = catalog;
        this.transactions = transactions;
    }

    @Override
    public boolean ready() {
        return ArchiveTables.of(catalog).ready();
    }

    @Override
    public List<String> setUp() {
        catalog.refresh();
        List<String> statements = script();
        if (!statements.isEmpty()) {
            catalog.run(statements);
        }
        return statements;
    }

    @Override
    public List<String> script() {
        return catalog.ownTables().script();
    }

    @Override
    public Stream<ArchivedRows> archived(ArchiveQuery query) {
        ArchiveTables place = ArchiveTables.of(catalog);
        return transactions.streaming(session -> place.archived(session, catalog.schema(), query));
    }

    @Override
    public List<String> documents(ReceiptId id) {
        return transactions.looking(session -> ArchiveTables.of(catalog).documents(session, id));
    }

    @Override
    public List<Receipt> receiptParts(ReceiptId id) {
        JsonReader reader = new JsonReader(catalog.schema());
        return documents(id).stream().map(reader::receipt).toList();
    }

    @Override
    public List<ExecutionTime> executionTimes(TableName table, OperationKind operation, int most) {
        return transactions.looking(
                session -> ArchiveTables.of(catalog).executionTimes(session, table, operation, most));
    }

    @Override
    public ScopeMarks scopes(ReceiptId id) {
        return transactions.looking(session -> ArchiveTables.of(catalog).scopes(session, id));
    }

    @Override
    public @Nullable UsedKey used(String requestId) {
        Optional<UsedKey> used = transactions.looking(
                session -> Optional.ofNullable(ArchiveTables.of(catalog).used(session, requestId)));
        return used.orElse(null);
    }

    @Override
    public List<Hold> holds() {
        return transactions.looking(session -> ArchiveTables.of(catalog).holds(session));
    }

    @Override
    public Hold place(Hold hold, Instant now, TrailEntry entry) {
        return transactions.writing(session -> ArchiveTables.of(catalog).place(session, hold, now, entry));
    }

    @Override
    public boolean release(long number, String by, Instant now, TrailEntry entry) {
        return transactions.writing(session -> ArchiveTables.of(catalog).release(session, number, by, now, entry));
    }
}
