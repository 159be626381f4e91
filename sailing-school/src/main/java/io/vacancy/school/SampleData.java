// SPDX-License-Identifier: Apache-2.0
package io.vacancy.school;

import java.time.LocalDate;
import java.util.List;
import org.springframework.boot.ApplicationArguments;
import org.springframework.boot.ApplicationRunner;
import org.springframework.stereotype.Component;
import org.springframework.transaction.annotation.Transactional;

/** Made-up courses and people, where there are none yet. */
@Component
class SampleData implements ApplicationRunner {

    private static final List<String> TITLES =
            List.of("First steps", "Knots", "Coastal navigation", "Night sailing", "Regatta", "Radio");
    private static final List<String> NAMES = List.of("Una Berg", "Tove Lind", "Aksel Dahl", "Ida Vik", "Jon Strand");

    private final Courses courses;
    private final Students students;

    SampleData(Courses courses, Students students) {
        this.courses = courses;
        this.students = students;
    }

    @Override
    @Transactional
    public void run(ApplicationArguments arguments) {
        if (courses.count() > 0) {
            return;
        }
        List<Student> all = students.saveAll(NAMES.stream()
                .map(name -> new Student(
                        name, name.toLowerCase(java.util.Locale.ROOT).replace(' ', '.') + "@example.org"))
                .toList());
        LocalDate season = LocalDate.of(2026, 5, 4);
        for (int week = 0; week < 12; week++) {
            Course course = new Course(TITLES.get(week % TITLES.size()), season.plusWeeks(week));
            for (int place = 0; place <= week % all.size(); place++) {
                new Booking(course, all.get(place), week == 2 && place == 0);
            }
            courses.save(course);
        }
    }
}
