package io.vacancy.jdbc;

import io.vacancy.failure.BusyException;
import io.vacancy.jdbc.dialect.Dialect;
import io.vacancy.jdbc.session.Busy;
import io.vacancy.jdbc.session.Context;
import io.vacancy.jdbc.session.Faults;
import io.vacancy.jdbc.session.Session;
import io.vacancy.jdbc.sql.Sql;
import io.vacancy.schema.Schema;
import io.vacancy.store.Watch;
import java.sql.Connection;
import java.sql.SQLException;
import javax.sql.DataSource;
import org.jspecify.annotations.Nullable;

/** What is known of the database's tables: read once, forgotten when the database says that they changed. */
final class Catalog {

    private static final Context READING = new Context("reading the tables of the database", null, null);

    private final DataSource source;
    private final Dialect dialect;
    private volatile @Nullable Reading reading;

    private record Reading(Schema schema, String digest) {}

    Catalog(DataSource source, Dialect dialect) {
        this.source = source;
        this.dialect = dialect;
    }

    Schema schema() {
        Reading known = reading;
        if (known == null) {
            known = read();
            reading = known;
        }
        return known.schema();
    }

    private Reading read() {
        try (Connection connection = source.getConnection()) {
            // The digest first: what changes while the rest is read shows in the next one.
            String digest = digest(new Session(connection, dialect, 0, new Watch() {}));
            return new Reading(dialect.catalogue().read(connection), digest);
        } catch (SQLException failed) {
            RuntimeException fault = Faults.of(failed, READING, dialect);
            throw fault instanceof Busy busy ? new BusyException(null, String.valueOf(busy.getMessage()), busy) : fault;
        }
    }

    void refresh() {
        reading = null;
    }

    /** Whether the tables are others than those that were read; what was read is forgotten then. */
    boolean outdated(Session session) {
        Reading known = reading;
        if (known != null && known.digest().equals(digest(session))) {
            return false;
        }
        reading = null;
        return true;
    }

    private String digest(Session session) {
        return session.query(Sql.of(dialect.catalogueDigest()), READING, rows -> rows.getString(1))
                .get(0);
    }
}
