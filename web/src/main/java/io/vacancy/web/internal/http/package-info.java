// SPDX-License-Identifier: Apache-2.0
/** What every resource needs of HTTP: paths, bodies, problems. */
@NullMarked
package io.vacancy.web.internal.http;

import org.jspecify.annotations.NullMarked;
