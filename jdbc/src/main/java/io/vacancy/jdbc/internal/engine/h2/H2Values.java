// SPDX-License-Identifier: Apache-2.0
package io.vacancy.jdbc.internal.engine.h2;

import com.fasterxml.jackson.core.JsonProcessingException;
import com.fasterxml.jackson.databind.ObjectMapper;
import io.vacancy.failure.MisuseException;
import io.vacancy.jdbc.spi.Values;
import io.vacancy.schema.ColumnType;
import java.sql.Array;
import java.sql.PreparedStatement;
import java.sql.ResultSet;
import java.sql.SQLException;
import java.util.ArrayList;
import java.util.List;
import org.jspecify.annotations.Nullable;

/** H2: how values get through the driver. */
final class H2Values implements Values {

    private static final ObjectMapper JSON = new ObjectMapper();

    /** The text of an array cannot be read again, since it does not quote what has a comma in it; JSON does. */
    @Override
    public @Nullable Object read(ResultSet rows, int index, ColumnType type) throws SQLException {
        if (fourBytes(type)) {
            float number = rows.getFloat(index);
            return rows.wasNull() ? null : (Object) Double.valueOf(Float.toString(number));
        }
        if (type.declared().startsWith("DECFLOAT")) {
            // NaN and Infinity are numbers to it, and no decimals to Java.
            String text = rows.getString(index);
            Object number = text == null ? null : type.kind().read(text);
            return text == null ? null : number == null ? (Object) Double.valueOf(text) : number;
        }
        if (!H2RowImageEncoding.place(type).equals("lists")) {
            return Values.super.read(rows, index, type);
        }
        Array array = rows.getArray(index);
        if (array == null) {
            return null;
        }
        List<@Nullable String> texts = new ArrayList<>();
        for (Object element : (Object[]) array.getArray()) {
            texts.add(element == null ? null : element.toString());
        }
        try {
            return JSON.writeValueAsString(texts);
        } catch (JsonProcessingException impossible) {
            throw new IllegalStateException(impossible);
        }
    }

    @Override
    public void bind(PreparedStatement statement, int index, Object value, ColumnType type) throws SQLException {
        if (value instanceof Double number && fourBytes(type)) {
            statement.setFloat(index, number.floatValue());
            return;
        }
        if (!H2RowImageEncoding.place(type).equals("lists")) {
            Values.super.bind(statement, index, value, type);
            return;
        }
        try {
            statement.setObject(index, JSON.readValue(value.toString(), Object[].class));
        } catch (JsonProcessingException noArray) {
            throw new MisuseException("\"" + value + "\" is no array.", "Write it as in JSON.");
        }
    }

    /** Compared as the number of four bytes that the column has. */
    private static boolean fourBytes(ColumnType type) {
        return type.declared().equalsIgnoreCase("REAL");
    }
}
