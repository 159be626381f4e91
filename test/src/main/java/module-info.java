/** For tests of applications: a store in memory, assertions, and what every store has to do. */
module io.vacancy.test {
    requires static transitive org.jspecify;
    requires transitive io.vacancy;
    requires transitive org.assertj.core;
    requires transitive org.junit.jupiter.api;

    exports io.vacancy.test;
}
