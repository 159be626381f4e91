// SPDX-License-Identifier: Apache-2.0
package io.vacancy.jdbc.internal.archive;

import io.vacancy.archive.PersonKey;
import io.vacancy.archive.PersonKeys;
import io.vacancy.jdbc.internal.operation.RowsToArchive;
import io.vacancy.jdbc.internal.session.Session;
import io.vacancy.jdbc.internal.session.StatementContext;
import io.vacancy.jdbc.spi.Dialect;
import io.vacancy.jdbc.spi.KeyColumn;
import io.vacancy.jdbc.spi.Sql;
import io.vacancy.schema.Column;
import io.vacancy.schema.ColumnType;
import io.vacancy.schema.Table;
import io.vacancy.spi.PersonCipher;
import io.vacancy.spi.plan.EncryptedColumns;
import java.sql.ResultSet;
import java.sql.SQLException;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Objects;
import java.util.stream.Collectors;
import java.util.stream.Stream;
import org.jspecify.annotations.Nullable;

/**
 * Encrypts personal values of rows that are about to be archived. The values go through this process and back into a temporary
 * table, from which the images take them by the rows' keys; everything else stays in the database.
 */
final class RowEncryption {

    /** Stands before what belongs to nobody, and so is as it was. */
    static final String UNOWNED = ":";

    /** So many keys are remembered, however many persons there are. */
    static final int MOST_KEYS = 10_000;

    private static final String ENCRYPTED = "vacancy_encrypted_";

    private final Session session;
    private final Dialect dialect;
    private final Table table;
    private final EncryptedColumns policy;
    private final PersonKeys keys;
    private final @Nullable List<String> onePerson;
    private final List<String> columns;
    private final Map<List<String>, PersonKey> known = new HashMap<>();
    private final ColumnType text;
    private final String place;

    /**
     * @param onePerson the key of the person that all rows belong to, or null where each has its own
     */
    private RowEncryption(
            Session session,
            RowsToArchive taken,
            EncryptedColumns policy,
            PersonKeys keys,
            @Nullable List<String> onePerson,
            List<String> columns) {
        this.session = session;
        this.dialect = session.dialect();
        this.table = taken.table();
        this.policy = policy;
        this.keys = keys;
        this.onePerson = onePerson;
        this.columns = columns;
        this.text = textType(dialect);
        List<Column> stored = new ArrayList<>();
        table.identity().columns().forEach(name -> stored.add(table.column(name)));
        for (int i = 0; i < columns.size(); i++) {
            stored.add(new Column(ENCRYPTED + i, text, true, false, false, null));
        }
        List<String> key =
                table.identity().columns().stream().map(dialect.syntax()::quote).toList();
        this.place = session.keyTables()
                .provide(
                        called -> dialect.temporaryTables().createPlainStage(called, stored, List.of(), List.of(key)),
                        context());
        encrypt(taken, stored);
    }

    /** The type of cells that hold encrypted texts. */
    static ColumnType textType(Dialect dialect) {
        return dialect.catalogue().reader().type(dialect.definitions().longText());
    }

    /** Of rows that are archived; null where nothing of them is encrypted. */
    static @Nullable RowEncryption of(
            Session session, RowsToArchive taken, @Nullable EncryptedColumns policy, @Nullable List<String> onePerson) {
        PersonKeys keys = session.personKeys();
        boolean owned = policy != null && (!policy.by().isEmpty() || onePerson != null);
        if (policy == null || keys == null || !owned) {
            return null;
        }
        List<String> columns =
                switch (taken.kind()) {
                    case ROWS -> policy.columns();
                    case VALUES ->
                        policy.columns().stream()
                                .filter(taken.changed()::containsKey)
                                .toList();
                    case LINKS, MARKS -> List.of();
                };
        return columns.isEmpty() ? null : new RowEncryption(session, taken, policy, keys, onePerson, columns);
    }

    private void encrypt(RowsToArchive taken, List<Column> stored) {
        List<Column> read = Stream.of(table.identity().columns(), policy.by(), columns)
                .flatMap(List::stream)
                .distinct()
                .map(table::column)
                .toList();
        String names = read.stream()
                .map(column -> "t." + dialect.syntax().quote(column.name()))
                .collect(Collectors.joining(", "));
        Sql select = Sql.of("SELECT " + names + " FROM " + dialect.syntax().table(table.name()) + " t WHERE ")
                .add(taken.which())
                .add(dialect.locking().forUpdate());
        List<KeyColumn> into = stored.stream()
                .map(column -> new KeyColumn(column.name(), column.type(), false))
                .toList();
        try (Stream<List<@Nullable Object>> rows = session.stream(select, context(), row -> encrypted(row, read))) {
            session.insert(place, into, rows.iterator(), context());
        }
    }

    private List<@Nullable Object> encrypted(ResultSet row, List<Column> read) throws SQLException {
        Map<String, @Nullable Object> values = new HashMap<>();
        for (int i = 0; i < read.size(); i++) {
            values.put(
                    read.get(i).name(),
                    dialect.values().readDecoded(row, i + 1, read.get(i).type()));
        }
        List<@Nullable Object> encrypted = new ArrayList<>();
        table.identity().columns().forEach(name -> encrypted.add(values.get(name)));
        PersonKey key = key(values);
        for (String column : columns) {
            Object value = values.get(column);
            if (value == null) {
                encrypted.add(null);
            } else if (key == null) {
                encrypted.add(UNOWNED + value);
            } else {
                encrypted.add(PersonCipher.encrypted(key, table.name() + "." + column, value.toString()));
            }
        }
        return encrypted;
    }

    /** The key of a row's person; null where it has none. */
    private @Nullable PersonKey key(Map<String, @Nullable Object> values) {
        List<String> person = onePerson;
        if (!policy.by().isEmpty()) {
            List<@Nullable Object> own = policy.by().stream().map(values::get).toList();
            person = own.stream().anyMatch(Objects::isNull)
                    ? null
                    : own.stream().map(String::valueOf).toList();
        }
        if (known.size() == MOST_KEYS) {
            known.clear();
        }
        return person == null
                ? null
                : known.computeIfAbsent(person, of -> keys.of(policy.person().toString(), of));
    }

    /** What takes the place of the value of a column of row t; null where it stays as it is. */
    @Nullable
    Sql value(String column) {
        int index = columns.indexOf(column);
        if (index < 0) {
            return null;
        }
        String same = table.identity().columns().stream()
                .map(name -> "x." + dialect.syntax().quote(name) + " = t."
                        + dialect.syntax().quote(name))
                .collect(Collectors.joining(" AND "));
        return Sql.of(
                "(SELECT x." + dialect.syntax().quote(ENCRYPTED + index) + " FROM " + place + " x WHERE " + same + ")");
    }

    /** The type of what takes its place. */
    ColumnType type() {
        return text;
    }

    private StatementContext context() {
        return StatementContext.of("encrypting what is archived of", table.name());
    }
}
