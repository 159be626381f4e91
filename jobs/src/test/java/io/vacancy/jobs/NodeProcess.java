// SPDX-License-Identifier: Apache-2.0
package io.vacancy.jobs;

import io.vacancy.Vacancy;
import io.vacancy.engines.UrlDataSource;
import io.vacancy.jdbc.JdbcStore;
import java.io.File;
import java.io.IOException;
import java.time.Duration;
import javax.sql.DataSource;

/** A node in a process of its own, which can be killed. */
final class NodeProcess {

    private NodeProcess() {}

    /** Begins one on a database. */
    static Process begin(String url, String name) throws IOException {
        return new ProcessBuilder(
                        System.getProperty("java.home") + File.separator + "bin" + File.separator + "java",
                        "-XX:TieredStopAtLevel=1",
                        "-Xmx256m",
                        "-cp",
                        System.getProperty("surefire.test.class.path", System.getProperty("java.class.path")),
                        NodeProcess.class.getName(),
                        url,
                        name)
                .redirectErrorStream(true)
                .redirectOutput(ProcessBuilder.Redirect.DISCARD)
                .start();
    }

    public static void main(String[] words) throws InterruptedException {
        DataSource source = new UrlDataSource(words[0]);
        JdbcStore store = JdbcStore.of(source);
        Vacancy vacancy =
                Vacancy.on(store).rules(Quay.RULES).actor(() -> "node").open();
        Jobs.on(vacancy, store, source)
                .node(words[1])
                .pollEvery(Duration.ofMillis(100))
                .heartbeatEvery(Duration.ofMillis(250))
                .open()
                .start();
        Thread.sleep(Long.MAX_VALUE);
    }
}
