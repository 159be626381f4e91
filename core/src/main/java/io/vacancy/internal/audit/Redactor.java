// SPDX-License-Identifier: Apache-2.0
package io.vacancy.internal.audit;

import io.vacancy.condition.Condition;
import io.vacancy.condition.Condition.Compare;
import io.vacancy.condition.Condition.Exists;
import io.vacancy.condition.Condition.Like;
import io.vacancy.condition.Condition.OneOf;
import io.vacancy.condition.RelatedRows;
import io.vacancy.preview.Effect;
import io.vacancy.preview.Impact;
import io.vacancy.rules.PersonalColumns;
import io.vacancy.rules.ResolvedRules;
import io.vacancy.schema.Relation;
import io.vacancy.schema.Row;
import io.vacancy.schema.Schema;
import io.vacancy.schema.Table;
import io.vacancy.schema.TableName;
import io.vacancy.trail.MacKey;
import java.nio.charset.StandardCharsets;
import java.util.HexFormat;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import org.jspecify.annotations.Nullable;

/**
 * Puts something else in the place of personal values: with a key, a digest by which a value that somebody already
 * knows is found again (the first half of HMAC-SHA-256, RFC 2104, over the column and the value); without one, a word
 * that says nothing.
 */
public final class Redactor {

    /** In the place of a personal value where there is no key. */
    public static final String WITHHELD = "(personal)";

    private static final int DIGEST_BYTES = 16;

    private final Schema schema;
    private final PersonalColumns columns;
    private final @Nullable MacKey key;

    /** @param key null where no value is ever to be found again */
    public Redactor(ResolvedRules rules, @Nullable MacKey key) {
        this.schema = rules.schema();
        this.columns = rules.personal();
        this.key = key;
    }

    /** Whether there is nothing to hide. */
    public boolean none() {
        return columns.none();
    }

    /** Whether all rows with values to hide were looked at that something happens to. */
    boolean knowsAll(Impact found) {
        for (int i = 0; i < found.effects().size(); i++) {
            Effect effect = found.effects().get(i);
            long looked =
                    Math.max(effect.sample().size(), i == 0 ? found.records().size() : 0);
            if (looked < effect.rows() && hides(schema.table(effect.table()))) {
                return false;
            }
        }
        return true;
    }

    private boolean hides(Table table) {
        return table.columns().stream().anyMatch(column -> columns.origin(table.name(), column.name()) != null);
    }

    /** The value, or what stands in its place. */
    public Object of(TableName table, String column, Object value) {
        String origin = columns.origin(table, column);
        return origin == null ? value : digest(origin, value);
    }

    private String digest(String origin, Object value) {
        if (key == null) {
            return WITHHELD;
        }
        byte[] text = (origin + "\0" + KeyText.text(value)).getBytes(StandardCharsets.UTF_8);
        return "digest:" + HexFormat.of().formatHex(key.mac(text), 0, DIGEST_BYTES);
    }

    /** The row without its personal values. */
    public Row of(Row row) {
        if (none()) {
            return row;
        }
        Map<String, @Nullable Object> values = new LinkedHashMap<>();
        row.values()
                .forEach((column, value) -> values.put(column, value == null ? null : of(row.table(), column, value)));
        return new Row(row.table(), values);
    }

    /** The condition without the personal values that it compares with. */
    public Condition of(Condition condition, Table table, RedactionTerms words) {
        if (condition instanceof Compare compare) {
            Object value = hidden(table, compare.column(), compare.value(), words);
            return new Compare(compare.column(), compare.comparison(), value);
        }
        if (condition instanceof OneOf oneOf) {
            return new OneOf(
                    oneOf.column(),
                    oneOf.values().stream()
                            .map(value -> hidden(table, oneOf.column(), value, words))
                            .toList());
        }
        if (condition instanceof Like like) {
            return new Like(like.column(), String.valueOf(hidden(table, like.column(), like.pattern(), words)));
        }
        if (condition instanceof Exists exists && exists.which() != null) {
            RelatedRows.Resolved related = exists.related().resolve(table, schema);
            return new Exists(exists.related(), of(exists.which(), related.table(), words));
        }
        return condition.replaceParts(part -> of(part, table, words));
    }

    /** The value that a request gives for a column, or what stands in its place; remembered where it is personal. */
    Object hidden(Table table, String written, Object value, RedactionTerms words) {
        String column = table.column(written).name();
        Object hidden = of(table.name(), column, value);
        if (hidden != value) {
            words.add(value, String.valueOf(hidden));
        }
        return hidden;
    }

    /** Remembers the values of a key that are personal. */
    public void remember(Table table, List<Object> key, RedactionTerms words) {
        for (int i = 0; i < key.size(); i++) {
            hidden(table, table.identity().columns().get(i), key.get(i), words);
        }
    }

    /**
     * Remembers what a link becomes where that is personal.
     *
     * @param becomes the value, or values by column: {@code a=1,b=2}
     */
    void remember(String relation, String becomes, RedactionTerms words) {
        Relation link = schema.relation(relation);
        for (String column : link.childColumns()) {
            String origin = columns.origin(link.child(), column);
            if (origin != null) {
                for (String part : becomes.split(",")) {
                    String value = part.substring(part.indexOf('=') + 1);
                    words.add(value, digest(origin, value));
                }
            }
        }
    }

    /** Remembers the personal values of a row, to be found in free text. */
    void remember(Row row, RedactionTerms words) {
        row.values().forEach((column, value) -> {
            String origin = value == null ? null : columns.origin(row.table(), column);
            if (origin != null && value != null) {
                words.add(value, digest(origin, value));
            }
        });
    }
}
