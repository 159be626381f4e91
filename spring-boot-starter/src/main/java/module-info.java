/** Vacancy in applications of Spring Boot. */
module io.vacancy.spring.boot {
    requires static transitive org.jspecify;
    requires transitive io.vacancy;
    requires transitive io.vacancy.jdbc;
    requires transitive io.vacancy.spring;
    requires io.vacancy.rulebook;
    requires java.sql;
    requires spring.beans;
    requires spring.boot;
    requires spring.boot.autoconfigure;
    requires spring.context;
    requires spring.core;
    requires org.slf4j;
    requires static io.vacancy.jobs;
    requires static io.vacancy.jpa;
    requires static io.vacancy.web;
    requires static jakarta.persistence;
    requires static jakarta.servlet;
    requires static micrometer.core;
    requires static spring.boot.actuator;
    requires static spring.orm;
    requires static spring.security.core;
    requires static spring.test;
    requires static spring.web;

    exports io.vacancy.spring.boot;
    exports io.vacancy.spring.boot.test;

    opens io.vacancy.spring.boot.test to
            spring.beans,
            spring.context,
            spring.core;
    opens io.vacancy.spring.boot to
            spring.beans,
            spring.boot,
            spring.context,
            spring.core;
}
