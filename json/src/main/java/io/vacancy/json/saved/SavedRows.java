// SPDX-License-Identifier: Apache-2.0
package io.vacancy.json.saved;

import com.fasterxml.jackson.databind.JsonNode;
import com.fasterxml.jackson.databind.node.ArrayNode;
import com.fasterxml.jackson.databind.node.ObjectNode;
import io.vacancy.archive.ArchivedColumn;
import io.vacancy.archive.ArchivedRows;
import io.vacancy.archive.ReceiptId;
import io.vacancy.failure.MisuseException;
import io.vacancy.json.internal.RowJson;
import io.vacancy.json.internal.StrictJson;
import io.vacancy.schema.TableName;
import java.nio.charset.StandardCharsets;
import java.security.MessageDigest;
import java.security.NoSuchAlgorithmException;
import java.time.Instant;
import java.util.ArrayList;
import java.util.HexFormat;
import java.util.List;
import java.util.Objects;
import org.jspecify.annotations.Nullable;

/**
 * The form of a file of saved rows: JSON Lines. The first line says under which receipt they went, and of which
 * tables and columns they are; each further line is a row; the last one tells how many there are. Every line ends
 * with a digest over itself and the line before it, so that the first line which is not as it was written is found.
 * The digest is no seal against somebody who writes the file anew.
 */
final class SavedRows {

    private static final int DIGITS = 16;
    private static final String CHECK = ",\"check\":\"";

    private SavedRows() {}

    static ObjectNode header(ReceiptId receipt, List<ArchivedRows> lines) {
        ObjectNode header = RowJson.object();
        header.put("saved-rows", 1);
        header.put("receipt", receipt.value());
        if (!lines.isEmpty()) {
            header.put("by", lines.get(0).by());
            header.put("at", lines.get(0).at().toString());
            header.put("because", lines.get(0).because());
        }
        ArrayNode nodes = header.putArray("lines");
        for (ArchivedRows line : lines) {
            ObjectNode node = nodes.addObject();
            node.put("line", line.line());
            node.put("schema", line.table().schema());
            node.put("table", line.table().name());
            node.put("links", line.links());
            node.put("relation", line.relation());
            ArrayNode columns = node.putArray("columns");
            line.columns()
                    .forEach(column ->
                            columns.addObject().put("name", column.name()).put("type", column.declared()));
        }
        return header;
    }

    static List<ArchivedRows> lines(JsonNode header) {
        if (!Objects.equals(StrictJson.whole(header, "saved-rows"), 1L)) {
            throw new MisuseException("Its first line is not that of a file of saved rows, version 1.");
        }
        List<ArchivedRows> lines = new ArrayList<>();
        for (JsonNode node : StrictJson.list(header, "lines")) {
            List<ArchivedColumn> columns = new ArrayList<>();
            StrictJson.list(node, "columns")
                    .forEach(column -> columns.add(
                            new ArchivedColumn(StrictJson.text(column, "name"), StrictJson.text(column, "type"))));
            Long number = StrictJson.whole(node, "line");
            String at = StrictJson.optional(header, "at");
            String by = StrictJson.optional(header, "by");
            lines.add(ArchivedRows.of(new ArchivedRows.Data(
                    ReceiptId.of(StrictJson.text(header, "receipt")),
                    1,
                    Math.toIntExact(number == null ? 0 : number),
                    new TableName(StrictJson.optional(node, "schema"), StrictJson.text(node, "table")),
                    StrictJson.truth(node, "links", false),
                    StrictJson.optional(node, "relation"),
                    0,
                    0,
                    0,
                    by == null ? "" : by,
                    at == null ? Instant.EPOCH : Instant.parse(at),
                    StrictJson.optional(header, "because"),
                    null,
                    false,
                    columns,
                    null)));
        }
        return lines;
    }

    /** A line as it stands in the file. */
    static String checked(ObjectNode node, String before) {
        String text = RowJson.line(node);
        String open = text.substring(0, text.length() - 1);
        return open + CHECK + check(open, before) + "\"}";
    }

    /** The digest that a line ends with; null where it has none, or another one. */
    static @Nullable String verified(String line, String before) {
        int at = line.lastIndexOf(CHECK);
        if (at < 0 || line.length() != at + CHECK.length() + DIGITS + 2) {
            return null;
        }
        String check = check(line.substring(0, at), before);
        return line.startsWith(check, at + CHECK.length()) ? check : null;
    }

    private static String check(String open, String before) {
        try {
            MessageDigest digest = MessageDigest.getInstance("SHA-256");
            digest.update(before.getBytes(StandardCharsets.UTF_8));
            byte[] whole = digest.digest(open.getBytes(StandardCharsets.UTF_8));
            return HexFormat.of().formatHex(whole, 0, DIGITS / 2);
        } catch (NoSuchAlgorithmException everyPlatformHasIt) {
            throw new IllegalStateException(everyPlatformHasIt);
        }
    }
}
