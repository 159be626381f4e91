/** Vacancy in applications of Spring Boot 4. */
module io.vacancy.spring.boot4 {
    requires static transitive org.jspecify;
    requires transitive io.vacancy.spring.boot;
    requires spring.boot.autoconfigure;
    requires spring.context;
    requires static spring.boot.health;

    exports io.vacancy.spring.boot4;

    opens io.vacancy.spring.boot4 to
            spring.beans,
            spring.context,
            spring.core;
}
