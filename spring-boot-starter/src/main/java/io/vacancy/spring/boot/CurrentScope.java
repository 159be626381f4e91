// SPDX-License-Identifier: Apache-2.0
package io.vacancy.spring.boot;

import io.vacancy.access.Scope;

/** What whoever works on the calling thread may see and touch, such as the rows of a tenant; everything without such a bean. */
@FunctionalInterface
public interface CurrentScope {

    /** Asked at each call. */
    Scope scope();
}
