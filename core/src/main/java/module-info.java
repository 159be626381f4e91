/** Deleting records: shown first, confirmed, executed whole, and reported afterwards. */
module io.vacancy {
    requires static transitive org.jspecify;
    requires org.slf4j;

    exports io.vacancy;
    exports io.vacancy.access;
    exports io.vacancy.advice;
    exports io.vacancy.archive;
    exports io.vacancy.condition;
    exports io.vacancy.failure;
    exports io.vacancy.listener;
    exports io.vacancy.outcome;
    exports io.vacancy.preview;
    exports io.vacancy.question;
    exports io.vacancy.request;
    exports io.vacancy.rules;
    exports io.vacancy.schema;
    exports io.vacancy.trail;
    // What a store implements.
    exports io.vacancy.spi;
    exports io.vacancy.spi.plan;
    // Checks that Vacancy's own modules share.
    exports io.vacancy.internal.argument to
            io.vacancy.cli,
            io.vacancy.jdbc,
            io.vacancy.jobs,
            io.vacancy.json,
            io.vacancy.rulebook,
            io.vacancy.test,
            io.vacancy.web;
    exports io.vacancy.internal.text to
            io.vacancy.cli,
            io.vacancy.jdbc,
            io.vacancy.jobs,
            io.vacancy.json,
            io.vacancy.rulebook;
}
