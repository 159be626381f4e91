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
}
