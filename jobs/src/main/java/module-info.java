import io.vacancy.jdbc.spi.OwnTableModule;
import io.vacancy.jobs.internal.store.JobTableModule;

/** Large deletions as jobs. */
module io.vacancy.jobs {
    requires static transitive org.jspecify;
    requires transitive io.vacancy;
    requires transitive io.vacancy.jdbc;
    requires io.vacancy.json;
    requires com.github.kagkarlsson.scheduler;
    requires static micrometer.core;
    requires com.fasterxml.jackson.databind;
    requires java.management;
    requires java.net.http;
    requires org.slf4j;

    exports io.vacancy.jobs;
    exports io.vacancy.jobs.order;
    exports io.vacancy.jobs.submit;
    exports io.vacancy.jobs.watch;
    exports io.vacancy.jobs.timing;
    exports io.vacancy.jobs.pace;
    exports io.vacancy.jobs.notice;
    exports io.vacancy.jobs.meters;

    provides OwnTableModule with
            JobTableModule;
}
