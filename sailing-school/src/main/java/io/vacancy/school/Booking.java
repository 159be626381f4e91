// SPDX-License-Identifier: Apache-2.0
package io.vacancy.school;

import io.vacancy.jpa.rules.ChildRule;
import io.vacancy.jpa.rules.DeletionMarker;
import io.vacancy.jpa.rules.DeletionRules;
import io.vacancy.jpa.rules.Then;
import jakarta.persistence.Entity;
import jakarta.persistence.GeneratedValue;
import jakarta.persistence.Id;
import jakarta.persistence.ManyToOne;
import jakarta.persistence.Version;
import java.time.LocalDate;
import org.jspecify.annotations.Nullable;

/** A student's place in a course. It is cancelled with its course, and erased with its student. */
@Entity
@DeletionRules(softDelete = true)
public class Booking {

    @Id
    @GeneratedValue
    @Nullable
    Long id;

    @ManyToOne(optional = false)
    Course course;

    @ManyToOne(optional = false)
    @ChildRule(when = "paid IS TRUE", then = Then.BLOCK, reason = "paid, so the money has to go back first")
    @ChildRule(then = Then.CASCADE)
    Student student;

    boolean paid;

    @DeletionMarker
    @Nullable
    LocalDate cancelledOn;

    @Version
    long version;

    Booking(Course course, Student student, boolean paid) {
        this.course = course;
        this.student = student;
        this.paid = paid;
        course.bookings.add(this);
    }

    @SuppressWarnings("NullAway.Init")
    protected Booking() {}
}
