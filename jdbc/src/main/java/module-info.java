import io.vacancy.jdbc.internal.engine.h2.H2DialectProvider;
import io.vacancy.jdbc.internal.engine.mariadb.MariadbDialectProvider;
import io.vacancy.jdbc.internal.engine.postgresql.PostgresqlDialectProvider;
import io.vacancy.jdbc.internal.engine.sqlite.SqliteDialectProvider;
import io.vacancy.jdbc.internal.tables.ArchiveTableModule;
import io.vacancy.jdbc.internal.tables.BypassTableModule;
import io.vacancy.jdbc.internal.tables.QuestionTableModule;
import io.vacancy.jdbc.internal.tables.RequestTableModule;
import io.vacancy.jdbc.internal.tables.TrailTableModule;
import io.vacancy.jdbc.spi.DialectProvider;
import io.vacancy.jdbc.spi.OwnTableModule;

/** The store over JDBC. */
module io.vacancy.jdbc {
    requires static transitive org.jspecify;
    requires transitive io.vacancy;
    requires transitive java.sql;
    requires io.vacancy.json;
    requires com.fasterxml.jackson.databind;
    requires org.slf4j;

    exports io.vacancy.jdbc;
    // What an engine brings.
    exports io.vacancy.jdbc.spi;

    uses DialectProvider;
    uses OwnTableModule;

    provides DialectProvider with
            H2DialectProvider,
            MariadbDialectProvider,
            PostgresqlDialectProvider,
            SqliteDialectProvider;
    provides OwnTableModule with
            ArchiveTableModule,
            TrailTableModule,
            RequestTableModule,
            QuestionTableModule,
            BypassTableModule;
}
