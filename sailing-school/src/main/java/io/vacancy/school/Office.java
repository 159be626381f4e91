// SPDX-License-Identifier: Apache-2.0
package io.vacancy.school;

import static io.vacancy.jpa.AttributeRef.attribute;

import io.vacancy.Vacancy;
import io.vacancy.jobs.Jobs;
import io.vacancy.jobs.order.JobOrder;
import io.vacancy.jobs.submit.Submission;
import io.vacancy.jpa.Entities;
import io.vacancy.outcome.Outcome;
import io.vacancy.preview.Preview;
import io.vacancy.question.Answer;
import io.vacancy.request.OnBlocked;
import java.time.LocalDate;
import org.springframework.stereotype.Service;
import org.springframework.transaction.annotation.Transactional;

/** What the office does. */
@Service
class Office {

    private final Courses courses;
    private final Students students;
    private final Entities entities;
    private final Vacancy vacancy;
    private final Jobs jobs;

    Office(Courses courses, Students students, Entities entities, Vacancy vacancy, Jobs jobs) {
        this.vacancy = vacancy;
        this.courses = courses;
        this.students = students;
        this.entities = entities;
        this.jobs = jobs;
    }

    /** Whatever is written here goes with the deletion, or is taken back with it. */
    @Transactional
    Outcome cancel(long course, String reason) {
        Outcome outcome = courses.delete(course, reason);
        if (outcome instanceof Outcome.Done) {
            courses.findById(course).ifPresent(each -> each.title = each.title + " (cancelled)");
        }
        return outcome;
    }

    @Transactional
    Booking book(long course, long student) {
        return new Booking(
                courses.findById(course).orElseThrow(),
                students.findById(student).orElseThrow(),
                false);
    }

    /** What the end of a season would erase, and the question to ask. */
    Preview seasonEnd(LocalDate before) {
        return vacancy.preview(entities.erase(Course.class)
                .where(attribute(Course.class, "startsOn").before(before))
                .because("the season before " + before + " is over")
                .onBlocked(OnBlocked.SKIP));
    }

    /** Many rows are a job's: in batches, beside the day's work, to be watched and called off. */
    Submission endSeason(LocalDate before, Answer answer) {
        return jobs.submit(JobOrder.of(seasonEnd(before)).named("season-end"), answer);
    }
}
