// SPDX-License-Identifier: Apache-2.0
package io.vacancy.jdbc.spi;

import io.vacancy.schema.ColumnType;
import io.vacancy.schema.TimeEncoding;
import java.util.ArrayList;
import java.util.List;
import java.util.function.Function;

/** SQL text that grows, with the values to bind in the order of its placeholders. */
public final class Sql {

    /** A value and the type of the column it is compared with or written to. */
    public record Bind(Object value, ColumnType type) {

        /** In the form in which a column of that type keeps it. */
        public static Bind of(Object value, ColumnType type) {
            TimeEncoding encoding = type.encoding();
            if (encoding == null) {
                return new Bind(value, type);
            }
            // What a column holds against its encoding is read as it is, and written so.
            Object kept = encoding.kind().read(value);
            return new Bind(kept == null ? value : encoding.encode(kept), type.stored());
        }
    }

    private final StringBuilder text = new StringBuilder();
    private final List<Bind> binds = new ArrayList<>();
    private final List<Integer> places = new ArrayList<>();

    public static Sql of(String text) {
        return new Sql().add(text);
    }

    /** Adds text that holds no value of anybody's. */
    public Sql add(String more) {
        text.append(more);
        return this;
    }

    public Sql add(Sql more) {
        more.places.forEach(place -> places.add(text.length() + place));
        text.append(more.text);
        binds.addAll(more.binds);
        return this;
    }

    /** Adds a placeholder and the value for it, in the form in which a column of that type keeps it. */
    public Sql bind(Object value, ColumnType type) {
        places.add(text.length());
        text.append('?');
        binds.add(Bind.of(value, type));
        return this;
    }

    /** The text with each value written into it, for statements that cannot have values beside them. */
    public String inlined(Function<Bind, String> literal) {
        StringBuilder inlined = new StringBuilder();
        int from = 0;
        for (int i = 0; i < binds.size(); i++) {
            inlined.append(text, from, places.get(i)).append(literal.apply(binds.get(i)));
            from = places.get(i) + 1;
        }
        return inlined.append(text, from, text.length()).toString();
    }

    public String text() {
        return text.toString();
    }

    public List<Bind> binds() {
        return binds;
    }

    @Override
    public String toString() {
        return text + " with " + binds.size() + " values";
    }
}
