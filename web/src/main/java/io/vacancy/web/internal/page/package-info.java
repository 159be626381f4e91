// SPDX-License-Identifier: Apache-2.0
/** Pages as they are unless an application brings its own. */
@NullMarked
package io.vacancy.web.internal.page;

import org.jspecify.annotations.NullMarked;
