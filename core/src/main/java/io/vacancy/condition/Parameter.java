// SPDX-License-Identifier: Apache-2.0
package io.vacancy.condition;

import io.vacancy.internal.argument.Arguments;

/**
 * The place of a value that is given later, in the condition of a named deletion. It is never a value
 * itself: a condition in which one is left cannot be carried out.
 */
public record Parameter(String name) {

    public Parameter {
        Arguments.notBlank(name, "name");
    }

    /** The place of the parameter of this name. */
    public static Parameter parameter(String name) {
        Arguments.notBlank(name, "name");
        return new Parameter(name);
    }

    @Override
    public String toString() {
        return ":" + name;
    }
}
