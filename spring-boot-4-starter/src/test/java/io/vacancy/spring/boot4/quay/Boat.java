// SPDX-License-Identifier: Apache-2.0
package io.vacancy.spring.boot4.quay;

import io.vacancy.jpa.rules.ChildRule;
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

@Entity
@DeletionRules(label = "{name}", softDelete = true)
public class Boat {
    @Id
    @GeneratedValue
    public Long id;

    public String name;

    @DeletionMarker
    public LocalDate leftOn;

    @Version
    public long version;

    @OneToMany(mappedBy = "boat", cascade = CascadeType.PERSIST)
    @ChildRule(then = Then.CASCADE)
    @ChildRule(then = Then.LEAVE, whenSoftDeleted = true)
    public List<Mooring> moorings = new ArrayList<>();

    protected Boat() {}

    public Boat(String name) {
        this.name = name;
    }
}
