package io.vacancy.jdbc;

import io.vacancy.archive.Hold;
import io.vacancy.archive.Kept;
import io.vacancy.archive.KeptQuery;
import io.vacancy.jdbc.archive.Place;
import io.vacancy.store.ArchiveStore;
import io.vacancy.trail.TrailEntry;
import java.time.Instant;
import java.util.List;
import java.util.stream.Stream;

/** Receipts and images in the user's own database. */
final class JdbcArchive implements ArchiveStore {

    private final Catalog catalog;
    private final OwnWork transactions;

    JdbcArchive(Catalog catalog, OwnWork transactions) {
        this.catalog = catalog;
        this.transactions = transactions;
    }

    @Override
    public boolean ready() {
        return catalog.place().ready();
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
        return catalog.place().script();
    }

    @Override
    public Stream<Kept> kept(KeptQuery query) {
        Place place = catalog.place();
        return transactions.streaming(session -> place.kept(session, catalog.schema(), query));
    }

    @Override
    public List<String> receipts(String id) {
        return transactions.looking(session -> catalog.place().receipts(session, id));
    }

    @Override
    public List<Hold> holds() {
        return transactions.looking(session -> catalog.place().holds(session));
    }

    @Override
    public Hold place(Hold hold, Instant now, TrailEntry entry) {
        return transactions.writing(session -> catalog.place().place(session, hold, now, entry));
    }

    @Override
    public boolean release(long number, String by, Instant now, TrailEntry entry) {
        return transactions.writing(session -> catalog.place().release(session, number, by, now, entry));
    }
}
