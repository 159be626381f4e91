// SPDX-License-Identifier: Apache-2.0
package io.vacancy.spring.boot4.quay;

import jakarta.persistence.Entity;
import jakarta.persistence.GeneratedValue;
import jakarta.persistence.Id;
import jakarta.persistence.ManyToOne;
import jakarta.persistence.Version;

@Entity
public class Mooring {
    @Id
    @GeneratedValue
    public Long id;

    @ManyToOne
    public Boat boat;

    @Version
    public long version;

    protected Mooring() {}

    public Mooring(Boat boat) {
        this.boat = boat;
        boat.moorings.add(this);
    }
}
