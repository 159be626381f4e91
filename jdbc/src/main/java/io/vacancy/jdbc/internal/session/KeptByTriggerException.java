// SPDX-License-Identifier: Apache-2.0
package io.vacancy.jdbc.internal.session;

/** A trigger, or a rule, of a table did otherwise than the statement said, without an error; trying again would be the same. */
public final class KeptByTriggerException extends RuntimeException {

    public KeptByTriggerException(String detail) {
        super(detail);
    }
}
