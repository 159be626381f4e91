// SPDX-License-Identifier: Apache-2.0
package io.vacancy.spring.boot;

/** Nothing says who works, so nobody could be held to what is deleted. */
final class NoActorException extends IllegalStateException {

    private static final long serialVersionUID = 1;

    static final String ACTION =
            "Declare a bean of type CurrentActor, or add Spring Security, whose user is the actor then.";

    NoActorException() {
        super("Vacancy needs to know who deletes, and nothing in the application says so.");
    }
}
