// SPDX-License-Identifier: Apache-2.0
package io.vacancy.school;

import io.vacancy.jobs.Jobs;
import io.vacancy.jobs.submit.Submission;
import io.vacancy.jobs.watch.Job;
import io.vacancy.preview.Preview;
import io.vacancy.question.Answer;
import io.vacancy.question.Question;
import io.vacancy.web.DeletionPages;
import java.net.URI;
import java.time.LocalDate;
import java.util.List;
import java.util.function.Function;
import java.util.stream.Collectors;
import org.jspecify.annotations.Nullable;
import org.springframework.http.HttpStatus;
import org.springframework.http.MediaType;
import org.springframework.http.ResponseEntity;
import org.springframework.stereotype.Controller;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PathVariable;
import org.springframework.web.bind.annotation.PostMapping;
import org.springframework.web.bind.annotation.RequestParam;
import org.springframework.web.util.HtmlUtils;

/** The office's page: what there is, with a form for each deletion. Nothing is deleted by it; Vacancy's own pages ask. */
@Controller
class Pages {

    private static final String HTML = MediaType.TEXT_HTML_VALUE + ";charset=UTF-8";

    private final Courses courses;
    private final Students students;
    private final Office office;
    private final Jobs jobs;
    private final DeletionPages pages;

    Pages(Courses courses, Students students, Office office, Jobs jobs, DeletionPages pages) {
        this.courses = courses;
        this.students = students;
        this.office = office;
        this.jobs = jobs;
        this.pages = pages;
    }

    @GetMapping(path = "/", produces = HTML)
    ResponseEntity<String> home() {
        return page(
                "Sailing school",
                table("Courses", courses.findByCancelledOnIsNullOrderByStartsOn(), this::course)
                        + table("Cancelled", courses.findByCancelledOnIsNotNullOrderByStartsOn(), this::cancelled)
                        + table("Students", students.findAllByOrderByName(), this::student)
                        + seasonEnd());
    }

    private String course(Course course) {
        return "<td>" + course.startsOn + "</td><td>" + escaped(course.title) + "</td><td>"
                + asks("course", course.id, "", "Cancel") + "</td>";
    }

    private String cancelled(Course course) {
        return "<td>" + course.startsOn + "</td><td>" + escaped(course.title) + "</td><td>"
                + asks("course", course.id, "<input type=\"hidden\" name=\"operation\" value=\"restore\">", "Restore")
                + "</td>";
    }

    private String student(Student student) {
        return "<td>" + escaped(student.name) + "</td><td>" + escaped(student.email) + "</td><td>"
                + asks("student", student.id, "", "Delete") + "</td>";
    }

    /** A form that Vacancy's page answers with everything that would be deleted, and asks. */
    private String asks(String table, @Nullable Long key, String more, String label) {
        return """
                <form method="post" action="/vacancy/pages/ask">
                <input type="hidden" name="table" value="%s"><input type="hidden" name="key" value="%s">
                <input type="hidden" name="token" value="%s"><input type="hidden" name="back" value="/">%s<button>%s</button></form>""".formatted(table, key, escaped(pages.token()), more, label);
    }

    private static String seasonEnd() {
        return """
                <h2>End of the season</h2>
                <form method="post" action="/season-end/ask"><label>Erase all courses before
                <input type="date" name="before" required></label> <button>End it</button></form>""";
    }

    /** Shows what it would erase; nothing is done. */
    @PostMapping(path = "/season-end/ask", produces = HTML)
    ResponseEntity<String> askSeasonEnd(@RequestParam LocalDate before) {
        Preview shown = office.seasonEnd(before);
        Question question = shown.question();
        String consequences = question.consequences().stream()
                .map(each -> "<li>" + escaped(each) + "</li>")
                .collect(Collectors.joining());
        String yes = """
                <form method="post" action="/season-end"><input type="hidden" name="before" value="%s">
                <input type="hidden" name="fingerprint" value="%s">
                <label>Type <b>%s</b>: <input name="typed" required autocomplete="off"></label> <button>Erase</button></form>""".formatted(before, question.fingerprint(), escaped(String.valueOf(question.awaited())));
        return page(
                "End of the season",
                "<p>" + escaped(question.title()) + "</p><ul>" + consequences + "</ul>"
                        + (shown.state() == Preview.State.READY ? yes : "<p>" + escaped(shown.title()) + "</p>")
                        + "<p><a href=\"/\">Back</a></p>");
    }

    @PostMapping(path = "/season-end", produces = HTML)
    ResponseEntity<String> endSeason(
            @RequestParam LocalDate before, @RequestParam String fingerprint, @RequestParam String typed) {
        Submission submission = office.endSeason(before, new Answer(fingerprint, typed));
        if (submission instanceof Submission.Rejected rejected) {
            return page(
                    "End of the season",
                    "<p>" + escaped(rejected.outcome().message()) + "</p><p><a href=\"/\">Back</a></p>");
        }
        return ResponseEntity.status(HttpStatus.SEE_OTHER)
                .location(URI.create("/jobs/" + submission.jobOrThrow().name()))
                .build();
    }

    @GetMapping(path = "/jobs/{name}", produces = HTML)
    ResponseEntity<String> job(@PathVariable String name) {
        Job job = jobs.find(name).orElse(null);
        if (job == null) {
            return ResponseEntity.notFound().build();
        }
        String reload = job.state().over() ? "" : "<meta http-equiv=\"refresh\" content=\"1\">";
        return page(
                job.name(),
                reload + "<p>" + escaped(job.title()) + ": " + job.state().word() + ", "
                        + job.progress().rows() + " rows.</p><p><a href=\"/\">Back</a></p>");
    }

    private static <T> String table(String title, List<T> rows, Function<T, String> cells) {
        return rows.isEmpty()
                ? ""
                : "<h2>" + title + "</h2><table>"
                        + rows.stream()
                                .map(row -> "<tr>" + cells.apply(row) + "</tr>")
                                .collect(Collectors.joining())
                        + "</table>";
    }

    private static ResponseEntity<String> page(String title, String body) {
        return ResponseEntity.ok("""
                <!doctype html>
                <html lang="en"><head><meta charset="utf-8"><meta name="viewport" content="width=device-width"><title>%s</title>
                <style>
                body { font: 16px/1.5 system-ui, sans-serif; margin: 2rem auto; max-width: 46rem; padding: 0 1rem; color: #1d2733 }
                table { border-collapse: collapse; width: 100%% } td { border-top: 1px solid #d5dde5; padding: .3rem .8rem .3rem 0 }
                td:first-child { width: 12rem } td:last-child { text-align: right } form { display: inline } button { font: inherit }
                </style></head><body><h1>%s</h1>%s</body></html>
                """.formatted(escaped(title), escaped(title), body));
    }

    private static String escaped(String text) {
        return HtmlUtils.htmlEscape(text);
    }
}
