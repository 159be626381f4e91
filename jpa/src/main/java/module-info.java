/** Vacancy by entities of Jakarta Persistence. */
module io.vacancy.jpa {
    requires static transitive org.jspecify;
    requires transitive io.vacancy;
    requires transitive jakarta.persistence;
    requires io.vacancy.rulebook;
    requires java.naming;
    requires jakarta.transaction;
    requires java.sql;
    requires org.hibernate.orm.core;
    requires org.slf4j;

    exports io.vacancy.jpa;
    exports io.vacancy.jpa.check;
    exports io.vacancy.jpa.rules;
    exports io.vacancy.jpa.transaction;
}
