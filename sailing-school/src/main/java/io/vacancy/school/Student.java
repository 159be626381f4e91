// SPDX-License-Identifier: Apache-2.0
package io.vacancy.school;

import io.vacancy.jpa.rules.DeletionRules;
import io.vacancy.jpa.rules.Personal;
import jakarta.persistence.Entity;
import jakarta.persistence.GeneratedValue;
import jakarta.persistence.Id;
import jakarta.persistence.Version;
import org.jspecify.annotations.Nullable;

/** A student. One who leaves is erased, and can be brought back for thirty days. */
@Entity
@DeletionRules(label = "{name}")
public class Student {

    @Id
    @GeneratedValue
    @Nullable
    Long id;

    String name;

    @Personal
    String email;

    @Version
    long version;

    Student(String name, String email) {
        this.name = name;
        this.email = email;
    }

    @SuppressWarnings("NullAway.Init")
    protected Student() {}
}
