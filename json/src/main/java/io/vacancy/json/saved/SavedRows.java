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
import io.vacancy.trail.MacKey;
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
 * Without a secret that is a part of SHA-256, and no seal against somebody who writes the file anew; with one it is
 * HMAC-SHA-256 (RFC 2104), and is called a seal.
 */
final class SavedRows {

    private static final int DIGITS = 16;
    private static final int SEAL_DIGITS = 64;
    private static final String CHECK = ",\"check\":\"";
    private static final String SEAL = ",\"seal\":\"";

    private final @Nullable MacKey key;

    SavedRows(@Nullable MacKey key) {
        this.key = key;
    }

    /** Whether a line ends as those of a sealed file do. */
    static boolean sealed(String line) {
        int at = line.lastIndexOf(SEAL);
        return at >= 0 && line.length() == at + SEAL.length() + SEAL_DIGITS + 2;
    }

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
            node.put("links", line.kind() == ArchivedRows.Kind.LINKS);
            node.put("values", line.kind() == ArchivedRows.Kind.VALUES);
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
                    kind(node),
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

    private static ArchivedRows.Kind kind(JsonNode line) {
        if (StrictJson.truth(line, "links", false)) {
            return ArchivedRows.Kind.LINKS;
        }
        return StrictJson.truth(line, "values", false) ? ArchivedRows.Kind.VALUES : ArchivedRows.Kind.ROWS;
    }

    /** A line as it stands in the file. */
    String checked(ObjectNode node, String before) {
        String text = RowJson.line(node);
        String open = text.substring(0, text.length() - 1);
        return open + member() + check(open, before) + "\"}";
    }

    /** The digest that a line ends with; null where it has none, or another one. */
    @Nullable
    String verified(String line, String before) {
        int at = line.lastIndexOf(member());
        int begin = at + member().length();
        if (at < 0 || line.length() != begin + (key == null ? DIGITS : SEAL_DIGITS) + 2) {
            return null;
        }
        String check = check(line.substring(0, at), before);
        byte[] found = line.substring(begin, line.length() - 2).getBytes(StandardCharsets.UTF_8);
        // In a time that does not tell how much of a seal was guessed.
        return MessageDigest.isEqual(check.getBytes(StandardCharsets.UTF_8), found) ? check : null;
    }

    private String member() {
        return key == null ? CHECK : SEAL;
    }

    private String check(String open, String before) {
        if (key != null) {
            return HexFormat.of().formatHex(key.mac((before + open).getBytes(StandardCharsets.UTF_8)));
        }
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
