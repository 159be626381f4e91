/** Vacancy in transactions that Spring begins. */
module io.vacancy.spring {
    requires static transitive org.jspecify;
    requires transitive io.vacancy;
    requires java.sql;
    requires spring.core;
    requires spring.jdbc;
    requires spring.tx;
    requires static io.vacancy.jpa;
    requires static jakarta.persistence;
    requires static spring.data.commons;
    requires static spring.orm;

    exports io.vacancy.spring;
    exports io.vacancy.spring.data;
    exports io.vacancy.spring.jpa;

    opens io.vacancy.spring.data to
            spring.beans,
            spring.core;
}
