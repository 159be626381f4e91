// SPDX-License-Identifier: Apache-2.0
package io.vacancy.jdbc.internal.archive;

import io.vacancy.archive.ArchivedColumn;
import io.vacancy.archive.PersonKey;
import io.vacancy.archive.PersonKeys;
import io.vacancy.jdbc.internal.session.Session;
import io.vacancy.jdbc.spi.Dialect;
import io.vacancy.jdbc.spi.Sql;
import io.vacancy.schema.Column;
import io.vacancy.schema.ColumnType;
import io.vacancy.spi.PersonCipher;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.function.ToIntFunction;
import java.util.stream.Collectors;
import org.jspecify.annotations.Nullable;

/** Puts encrypted values, as far as there are keys for them, into the rows that images have become in a stage. */
final class RowDecryption {

    private static final int AT_ONCE = 200;

    private final Session session;
    private final Dialect dialect;
    private final StagingTable stage;
    private final ToIntFunction<String> losses;
    private final Map<String, Optional<PersonKey>> known = new HashMap<>();

    /** @param losses the number by which a stage says why a row loses something */
    RowDecryption(Session session, StagingTable stage, ToIntFunction<String> losses) {
        this.session = session;
        this.dialect = session.dialect();
        this.stage = stage;
        this.losses = losses;
    }

    /** An image with what its encrypted columns hold, in their order. */
    private record Encrypted(long image, List<@Nullable String> texts) {}

    /**
     * @param archived the columns of the images
     * @param columns those of them that are encrypted and that the stage has, each with its place in the image
     * @param images that an image i is meant
     * @param tables the table of images
     */
    void run(List<ArchivedColumn> archived, Map<Column, Integer> columns, String images, String tables) {
        ColumnType text = RowEncryption.textType(dialect);
        String cells = columns.values().stream()
                .map(place ->
                        dialect.images().fromCell(dialect.images().encoding().cell("i", place, text), text))
                .collect(Collectors.joining(", "));
        String open = columns.keySet().stream()
                .map(column -> "s." + dialect.syntax().quote(column.name()) + " IS NULL")
                .collect(Collectors.joining(" AND "));
        List<String> places = columns.values().stream()
                .map(place ->
                        stage.table().name() + "." + archived.get(place).name().replaceFirst("^.*:", ""))
                .toList();
        long last = -1;
        while (true) {
            Sql select = Sql.of("SELECT s." + StagingTable.IMAGE + ", " + cells + " FROM " + stage.name() + " s JOIN "
                    + tables + " i ON i.row_no = s." + StagingTable.IMAGE + " WHERE (" + images + ") AND " + open
                    + " AND s." + StagingTable.IMAGE + " > " + last + " ORDER BY s." + StagingTable.IMAGE
                    + dialect.syntax().firstRows(AT_ONCE));
            List<Encrypted> some = session.query(select, stage.context("decrypting images of"), row -> {
                List<@Nullable String> texts = new ArrayList<>();
                for (int i = 0; i < columns.size(); i++) {
                    texts.add(row.getString(i + 2));
                }
                return new Encrypted(row.getLong(1), texts);
            });
            if (some.isEmpty()) {
                return;
            }
            last = some.get(some.size() - 1).image();
            write(some, List.copyOf(columns.keySet()), places);
        }
    }

    private void write(List<Encrypted> some, List<Column> columns, List<String> places) {
        List<Map<Long, Object>> values = new ArrayList<>();
        Map<Long, Integer> lost = new LinkedHashMap<>();
        for (int i = 0; i < columns.size(); i++) {
            Map<Long, Object> own = new LinkedHashMap<>();
            for (Encrypted image : some) {
                String text = image.texts().get(i);
                if (text != null) {
                    Object value = value(text, places.get(i), columns.get(i));
                    if (value == null) {
                        lost.put(image.image(), losses.applyAsInt(why(text)));
                    } else {
                        own.put(image.image(), value);
                    }
                }
            }
            values.add(own);
        }
        Sql update = Sql.of("UPDATE " + stage.name() + " SET ");
        String comma = "";
        for (int i = 0; i < columns.size(); i++) {
            String name = dialect.syntax().quote(columns.get(i).name());
            if (!values.get(i).isEmpty()) {
                ColumnType type = columns.get(i).type();
                update.add(comma + name + " = CASE " + StagingTable.IMAGE);
                values.get(i).forEach((image, value) -> {
                    String[] around = dialect.images().fromCopy(type).split("\\?", -1);
                    update.add(" WHEN " + image + " THEN " + around[0])
                            .bind(value, type)
                            .add(around[1]);
                });
                update.add(" ELSE " + name + " END");
                comma = ", ";
            }
        }
        if (!lost.isEmpty()) {
            update.add(comma + StagingTable.LOST + " = CASE " + StagingTable.IMAGE);
            lost.forEach((image, number) -> update.add(" WHEN " + image + " THEN " + number));
            update.add(" ELSE " + StagingTable.LOST + " END");
            comma = ", ";
        }
        if (comma.isEmpty()) {
            return;
        }
        String images = some.stream().map(each -> Long.toString(each.image())).collect(Collectors.joining(", "));
        session.update(
                update.add(" WHERE " + StagingTable.IMAGE + " IN (" + images + ")"),
                stage.context("decrypting images of"));
    }

    private @Nullable Object value(String text, String place, Column column) {
        String plain = text;
        if (text.startsWith(RowEncryption.UNOWNED)) {
            plain = text.substring(RowEncryption.UNOWNED.length());
        } else {
            PersonKey key = key(text);
            String decrypted = key == null ? null : PersonCipher.decrypted(key, place, text);
            if (decrypted == null) {
                return null;
            }
            plain = decrypted;
        }
        Object read = column.type().kind().read(plain);
        return read == null && dialect.values().keepsAnything() ? plain : read;
    }

    private @Nullable PersonKey key(String text) {
        PersonKeys keys = session.personKeys();
        if (known.size() == RowEncryption.MOST_KEYS) {
            known.clear();
        }
        return keys == null
                ? null
                : known.computeIfAbsent(PersonCipher.keyOf(text), id -> Optional.ofNullable(keys.find(id)))
                        .orElse(null);
    }

    private String why(String text) {
        if (session.personKeys() == null) {
            return "what is personal in them is encrypted by the keys of persons, and none are given here";
        }
        return key(text) == null
                ? "what is personal in them is encrypted, and the person's key was destroyed"
                : "what is personal in them is not what was encrypted: somebody changed the archive";
    }
}
