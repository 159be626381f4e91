// SPDX-License-Identifier: Apache-2.0
package io.vacancy.json;

import com.fasterxml.jackson.core.JsonGenerator;
import com.fasterxml.jackson.databind.json.JsonMapper;
import io.vacancy.internal.argument.Arguments;
import io.vacancy.json.internal.JsonValue;
import io.vacancy.schema.Row;
import io.vacancy.schema.TableName;
import java.io.IOException;
import java.io.UncheckedIOException;
import java.io.Writer;
import org.jspecify.annotations.Nullable;

/**
 * Writes everything that belongs to a person as one JSON document, row by row, however many there are:
 * {@code {"version": 1, "tables": [{"table": "skipper", "rows": [{…}]}, …]}}. One thread only; what it writes to is flushed at
 * the end, and not closed.
 */
public final class PersonDataJson {

    private static final JsonMapper MAPPER =
            JsonMapper.builder().nodeFactory(JsonValue.NODES).build();

    private final JsonGenerator to;
    private @Nullable TableName table;

    /**
     * @param database stands as {@code database} in the document: engine and address, without secrets; null for none
     * @throws UncheckedIOException if it cannot be written, here and below
     */
    public PersonDataJson(Writer to, @Nullable String database) {
        Arguments.notNull(to, "to");
        try {
            this.to = MAPPER.createGenerator(to)
                    .disable(JsonGenerator.Feature.AUTO_CLOSE_TARGET)
                    .useDefaultPrettyPrinter();
            this.to.writeStartObject();
            this.to.writeNumberField("version", JsonWriter.VERSION);
            if (database != null) {
                this.to.writeStringField("database", database);
            }
            this.to.writeArrayFieldStart("tables");
        } catch (IOException failed) {
            throw new UncheckedIOException(failed);
        }
    }

    /** Writes a row; those of a table come together. */
    public void take(Row row) {
        Arguments.notNull(row, "row");
        try {
            if (!row.table().equals(table)) {
                endTable();
                table = row.table();
                to.writeStartObject();
                to.writeStringField("table", table.toString());
                to.writeArrayFieldStart("rows");
            }
            to.writeTree(JsonValue.of(row));
        } catch (IOException failed) {
            throw new UncheckedIOException(failed);
        }
    }

    private void endTable() throws IOException {
        if (table != null) {
            to.writeEndArray();
            to.writeEndObject();
        }
    }

    /** Ends the document. */
    public void end() {
        try {
            endTable();
            to.writeEndArray();
            to.writeEndObject();
            to.close();
        } catch (IOException failed) {
            throw new UncheckedIOException(failed);
        }
    }
}
