package io.vacancy.jdbc;

import io.vacancy.failure.BusyException;
import io.vacancy.failure.StoreException;
import io.vacancy.failure.VacancyException;
import io.vacancy.jdbc.dialect.Dialect;
import io.vacancy.jdbc.dialect.Dialects;
import io.vacancy.jdbc.removal.Removing;
import io.vacancy.jdbc.removal.Slipped;
import io.vacancy.jdbc.session.Busy;
import io.vacancy.jdbc.session.Context;
import io.vacancy.jdbc.session.Faults;
import io.vacancy.jdbc.session.Session;
import io.vacancy.jdbc.sql.Sql;
import io.vacancy.jdbc.walk.Report;
import io.vacancy.jdbc.walk.Walk;
import io.vacancy.outcome.Outcome;
import io.vacancy.preview.Findings;
import io.vacancy.program.Deletion;
import io.vacancy.schema.Schema;
import io.vacancy.schema.TableName;
import io.vacancy.store.Store;
import java.sql.Connection;
import java.sql.SQLException;
import javax.sql.DataSource;
import org.jspecify.annotations.Nullable;

/**
 * A store over JDBC. It takes a connection from the data source for each call and gives it back as it
 * was; it serves several threads at once if the data source does.
 */
public final class JdbcStore implements Store {

    private final DataSource source;
    private final Dialect dialect;
    private volatile @Nullable Schema schema;

    private JdbcStore(DataSource source, Dialect dialect) {
        this.source = source;
        this.dialect = dialect;
    }

    /**
     * A store on the database behind a data source; finds out by itself which engine it is.
     *
     * @throws StoreException if there is no connection to be had
     * @throws VacancyException if the engine is not known
     */
    public static JdbcStore of(DataSource source) {
        try (Connection connection = source.getConnection()) {
            return new JdbcStore(source, Dialects.of(connection));
        } catch (SQLException failed) {
            throw new StoreException(
                    "The database cannot be reached: " + failed.getMessage() + ".",
                    null,
                    "connecting",
                    null,
                    null,
                    failed);
        }
    }

    @Override
    public Schema schema() {
        Schema known = schema;
        if (known == null) {
            Context context = new Context("reading its tables", null, null);
            try (Connection connection = source.getConnection()) {
                known = dialect.catalogue().read(connection);
            } catch (SQLException failed) {
                throw shown(Faults.of(failed, context, dialect));
            }
            schema = known;
        }
        return known;
    }

    @Override
    public void refresh() {
        schema = null;
    }

    @Override
    public Findings look(Deletion deletion) {
        try (Transaction transaction = Transaction.begin(source, dialect, dialect.isolationForLooking())) {
            Walk walk = new Walk(transaction.session(), schema(), deletion, false);
            walk.run();
            // Rolled back on closing, key tables and all.
            return new Report(walk).findings();
        } catch (Busy busy) {
            throw shown(busy);
        }
    }

    @Override
    public Ending carryOut(Deletion deletion, Approval approval) {
        TableName root = deletion.program().root();
        try (Transaction transaction = Transaction.begin(source, dialect, dialect.isolationForRemoving())) {
            Session session = transaction.session();
            String lock = dialect.lockWhole(root);
            if (lock != null) {
                session.update(Sql.of(lock), Context.of("locking", root));
            }
            Walk walk = new Walk(session, schema(), deletion, true);
            walk.run();
            Findings found = new Report(walk).findings();
            Outcome objection = approval.objection(found);
            if (objection != null) {
                return new Ending.Stopped(objection);
            }
            new Removing(session, walk).run();
            transaction.commit(root);
            return new Ending.Removed(found);
        } catch (Busy busy) {
            return new Ending.Stopped(new Outcome.Busy(table(busy), detail(busy)));
        } catch (Slipped slipped) {
            return new Ending.Slipped(String.valueOf(slipped.getMessage()));
        }
    }

    private static RuntimeException shown(RuntimeException failed) {
        return failed instanceof Busy busy ? new BusyException(table(busy), detail(busy), busy) : failed;
    }

    private static @Nullable String table(Busy busy) {
        TableName table = busy.context().table();
        return table == null ? null : table.toString();
    }

    private static String detail(Busy busy) {
        return "while " + busy.context().step() + " it, " + busy.getMessage() + ".";
    }
}
