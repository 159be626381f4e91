// SPDX-License-Identifier: Apache-2.0
package io.vacancy.spi;

import java.time.Duration;

/** How long a part of a receipt took. */
public record ExecutionTime(long rows, Duration took) {}
