// SPDX-License-Identifier: Apache-2.0
package io.vacancy.school;

import io.vacancy.spring.boot.CurrentActor;
import java.nio.charset.StandardCharsets;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import java.util.Locale;
import org.junit.jupiter.api.Test;
import org.springframework.boot.autoconfigure.EnableAutoConfiguration;
import org.springframework.boot.builder.SpringApplicationBuilder;
import org.springframework.context.ConfigurableApplicationContext;
import org.springframework.context.support.GenericApplicationContext;

/**
 * How much longer an application takes to start with Vacancy than without, each time in a process of its own:
 * {@code mvn -pl sailing-school -am test -Dtest=StartUpBenchmark -Dsurefire.failIfNoSpecifiedTests=false}.
 */
class StartUpBenchmark {

    private static final int ROUNDS = 9;

    /** The entities and the web server, without what needs Vacancy. */
    @EnableAutoConfiguration
    static class Bare {

        public static void main(String... arguments) {
            SpringApplicationBuilder application = new SpringApplicationBuilder(Bare.class);
            application.properties(
                    "server.port=0",
                    "spring.main.banner-mode=off",
                    "spring.data.jpa.repositories.enabled=false",
                    "spring.jpa.hibernate.ddl-auto=create");
            if (arguments[0].equals("without")) {
                application.properties("spring.autoconfigure.exclude=io.vacancy.spring.boot.VacancyAutoConfiguration,"
                        + "io.vacancy.spring.boot.EntitiesAutoConfiguration");
            } else {
                application.initializers(context -> ((GenericApplicationContext) context)
                        .registerBean(CurrentActor.class, () -> () -> "Mira Holm"));
            }
            long begun = System.nanoTime();
            try (ConfigurableApplicationContext context = application.run()) {
                System.out.println("STARTED " + (System.nanoTime() - begun) / 1_000_000);
            }
        }
    }

    @Test
    void measures() throws Exception {
        List<Long> with = new ArrayList<>();
        List<Long> without = new ArrayList<>();
        for (int round = 0; round <= ROUNDS; round++) {
            long one = start("without");
            long other = start("with");
            if (round > 0) {
                without.add(one);
                with.add(other);
            }
        }
        System.out.printf(
                Locale.ROOT, "without %d ms, with %d ms (medians of %d)%n", median(without), median(with), ROUNDS);
    }

    private static long median(List<Long> values) {
        return values.stream().sorted().toList().get(values.size() / 2);
    }

    private static long start(String how) throws Exception {
        Process process = new ProcessBuilder(
                        Path.of(System.getProperty("java.home"), "bin", "java").toString(),
                        "-cp",
                        System.getProperty("java.class.path"),
                        Bare.class.getName(),
                        how)
                .redirectErrorStream(true)
                .start();
        String out = new String(process.getInputStream().readAllBytes(), StandardCharsets.UTF_8);
        return out.lines()
                .filter(line -> line.startsWith("STARTED "))
                .map(line -> Long.valueOf(line.substring(8)))
                .findFirst()
                .orElseThrow(() -> new IllegalStateException(out));
    }
}
