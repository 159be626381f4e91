// SPDX-License-Identifier: Apache-2.0
package io.vacancy.spring.boot;

/** What happens at start-up where the mapping of entities and the rules do not fit. */
public enum MappingCheckMode {
    /** It is logged. */
    WARN,
    /** The application does not start if data could be lost. */
    FAIL,
    /** Nobody looks. */
    NEVER
}
