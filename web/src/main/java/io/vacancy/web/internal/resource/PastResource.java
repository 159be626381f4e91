// SPDX-License-Identifier: Apache-2.0
package io.vacancy.web.internal.resource;

import com.fasterxml.jackson.databind.node.ArrayNode;
import com.fasterxml.jackson.databind.node.ObjectNode;
import io.vacancy.History;
import io.vacancy.Vacancy;
import io.vacancy.archive.ArchiveQuery;
import io.vacancy.archive.ArchivedRows;
import io.vacancy.archive.ReceiptId;
import io.vacancy.failure.MisuseException;
import io.vacancy.json.JsonWriter;
import io.vacancy.outcome.Outcome;
import io.vacancy.outcome.Receipt;
import io.vacancy.schema.TableName;
import io.vacancy.trail.TrailEntry;
import io.vacancy.web.Exposed;
import io.vacancy.web.Exposure;
import io.vacancy.web.internal.http.Exchange;
import io.vacancy.web.internal.http.Json;
import io.vacancy.web.internal.http.ProblemException;
import java.io.IOException;
import java.util.List;
import java.util.Objects;
import java.util.Optional;
import java.util.stream.Stream;

/** What was done: receipts, what can be restored, and the audit history. */
public record PastResource(Vacancy vacancy, Exposure exposure) {

    private static final int USUAL = 50;
    private static final int MOST = 500;

    /** One receipt; what is in doubt is looked up by it. */
    public void receipt(Exchange exchange, String id) throws IOException {
        Receipt receipt = id.length() <= 64 && !id.isBlank() && id.chars().noneMatch(Character::isWhitespace)
                ? vacancy.receipt(ReceiptId.of(id)).orElse(null)
                : null;
        if (receipt == null || !opens(receipt)) {
            throw new ProblemException(404, "not-found", "There is no such receipt.");
        }
        exchange.send(200, Json.own(new JsonWriter().write(new Outcome.Done(receipt))));
    }

    /** Receipts of what was done to rows of a table that were selected, newest first. */
    public void receipts(Exchange exchange) throws IOException {
        TableName table = table(exchange, Exposed.ARCHIVE);
        History history = vacancy.history().of(table.toString()).ending(TrailEntry.Ending.DONE);
        String after = exchange.parameter("after");
        int limit = limit(exchange);
        History.Page page = (after == null ? history : history.after(after)).page(limit);
        ObjectNode document = Json.object();
        document.put("version", 1);
        ArrayNode receipts = document.putArray("receipts");
        page.entries().stream()
                .filter(entry -> table.toString().equals(entry.table()) && entry.receipt() != null)
                .map(entry -> vacancy.receipt(Objects.requireNonNull(entry.receipt())))
                .flatMap(Optional::stream)
                .filter(this::opens)
                .forEach(receipt -> receipts.add(Json.own(new JsonWriter().write(new Outcome.Done(receipt)))));
        if (page.next() != null) {
            document.put(
                    "next",
                    exchange.address("receipts") + "?table=" + table + "&limit=" + limit + "&after=" + page.next());
        }
        exchange.send(200, document);
    }

    private boolean opens(Receipt receipt) {
        return receipt.selectedFrom().stream().allMatch(table -> exposure.opens(table, Exposed.ARCHIVE));
    }

    /** What is archived of a table, newest first. */
    public void archive(Exchange exchange) throws IOException {
        TableName table = table(exchange, Exposed.ARCHIVE);
        int limit = limit(exchange);
        int from = whole(exchange, "from", 0, 0, Integer.MAX_VALUE - MOST - 1);
        List<ArchivedRows> rows;
        try (Stream<ArchivedRows> all =
                vacancy.archive().rows(ArchiveQuery.all().of(table.toString()))) {
            rows = all.skip(from).limit(limit + 1L).toList();
        }
        boolean more = rows.size() > limit;
        ObjectNode document = (ObjectNode) Json.own(new JsonWriter().archived(more ? rows.subList(0, limit) : rows));
        if (more) {
            document.put(
                    "next",
                    exchange.address("archive") + "?table=" + table + "&limit=" + limit + "&from=" + (from + limit));
        }
        exchange.send(200, document);
    }

    /** Entries of the audit history of a table, newest first. */
    public void history(Exchange exchange) throws IOException {
        TableName table = table(exchange, Exposed.HISTORY);
        String key = exchange.parameter("key");
        History history = key == null
                ? vacancy.history().of(table.toString())
                : vacancy.history().of(table.toString(), key);
        String after = exchange.parameter("after");
        int limit = limit(exchange);
        History.Page page = (after == null ? history : history.after(after)).page(limit);
        ObjectNode document = Json.object();
        document.put("version", 1);
        ArrayNode entries = document.putArray("entries");
        page.entries().forEach(entry -> entries.add(Json.own(JsonWriter.entry(entry))));
        if (page.next() != null) {
            document.put(
                    "next",
                    exchange.address("history") + "?table=" + table + (key == null ? "" : "&key=" + key) + "&limit="
                            + limit + "&after=" + page.next());
        }
        exchange.send(200, document);
    }

    private TableName table(Exchange exchange, Exposed what) {
        String named = exchange.parameter("table");
        if (named == null || named.isBlank()) {
            throw AskedDocument.malformed("Say which table, as table=….");
        }
        try {
            TableName table = vacancy.schema().table(named).name();
            if (exposure.opens(table, what)) {
                return table;
            }
        } catch (MisuseException unknown) {
            throw AskedDocument.closed();
        }
        throw AskedDocument.closed();
    }

    private static int limit(Exchange exchange) {
        return whole(exchange, "limit", USUAL, 1, MOST);
    }

    private static int whole(Exchange exchange, String name, int usual, int least, int most) {
        String given = exchange.parameter(name);
        if (given == null) {
            return usual;
        }
        if (!given.matches("\\d{1,9}") || Integer.parseInt(given) < least || Integer.parseInt(given) > most) {
            throw AskedDocument.malformed(name + " is a number from " + least + " to " + most + ".");
        }
        return Integer.parseInt(given);
    }
}
