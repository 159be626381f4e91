// SPDX-License-Identifier: Apache-2.0
package io.vacancy.school;

import io.vacancy.jpa.rules.ChildRule;
import io.vacancy.jpa.rules.DeletedBecause;
import io.vacancy.jpa.rules.DeletedBy;
import io.vacancy.jpa.rules.DeletionMarker;
import io.vacancy.jpa.rules.DeletionRules;
import io.vacancy.jpa.rules.Then;
import jakarta.persistence.CascadeType;
import jakarta.persistence.Entity;
import jakarta.persistence.GeneratedValue;
import jakarta.persistence.Id;
import jakarta.persistence.OneToMany;
import jakarta.persistence.Version;
import java.time.LocalDate;
import java.util.ArrayList;
import java.util.List;
import org.jspecify.annotations.Nullable;

/** A course. One that is cancelled stays, marked, with its bookings. */
@Entity
@DeletionRules(label = "{title} of {startsOn}", softDelete = true)
public class Course {

    @Id
    @GeneratedValue
    @Nullable
    Long id;

    String title;
    LocalDate startsOn;

    @DeletionMarker
    @Nullable
    LocalDate cancelledOn;

    @DeletedBy
    @Nullable
    String cancelledBy;

    @DeletedBecause
    @Nullable
    String cancelledBecause;

    @Version
    long version;

    @OneToMany(mappedBy = "course", cascade = CascadeType.PERSIST)
    @ChildRule(when = "paid IS TRUE", then = Then.BLOCK, reason = "paid, so the money has to go back first")
    @ChildRule(then = Then.CASCADE)
    List<Booking> bookings = new ArrayList<>();

    Course(String title, LocalDate startsOn) {
        this.title = title;
        this.startsOn = startsOn;
    }

    @SuppressWarnings("NullAway.Init")
    protected Course() {}
}
