// SPDX-License-Identifier: Apache-2.0
package io.vacancy.spring.boot;

import java.util.Map;

/** Where a call comes from, for the audit history; the method, path and address of the HTTP request unless there is such a bean. */
@FunctionalInterface
public interface CurrentOrigin {

    /** A few names and values without personal data. */
    Map<String, String> origin();
}
