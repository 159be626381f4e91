/** Vacancy in transactions that Spring begins. */
module io.vacancy.spring {
    requires static transitive org.jspecify;
    requires transitive io.vacancy;
    requires java.sql;
    requires spring.core;
    requires spring.jdbc;
    requires spring.tx;

    exports io.vacancy.spring;
}
