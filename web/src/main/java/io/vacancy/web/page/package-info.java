// SPDX-License-Identifier: Apache-2.0
/** What pages show, for an application that brings its own templates or texts. */
@NullMarked
package io.vacancy.web.page;

import org.jspecify.annotations.NullMarked;
