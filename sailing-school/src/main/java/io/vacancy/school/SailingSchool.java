// SPDX-License-Identifier: Apache-2.0
package io.vacancy.school;

import io.vacancy.spring.boot.CurrentActor;
import io.vacancy.web.Exposed;
import io.vacancy.web.Exposure;
import org.springframework.boot.SpringApplication;
import org.springframework.boot.autoconfigure.SpringBootApplication;
import org.springframework.context.annotation.Bean;

/** The application. */
@SpringBootApplication
public class SailingSchool {

    /** Starts it: http://localhost:8080. */
    public static void main(String... arguments) {
        SpringApplication.run(SailingSchool.class, arguments);
    }

    /** With a login it would be its user. */
    @Bean
    CurrentActor actor() {
        return () -> "Mira Holm";
    }

    /** What the pages may be asked for; nothing else is open. */
    @Bean
    Exposure exposure() {
        return Exposure.build(open -> open.table("course", Exposed.DELETE, Exposed.RESTORE)
                .table("student", Exposed.DELETE, Exposed.RESTORE, Exposed.ARCHIVE));
    }
}
