// SPDX-License-Identifier: Apache-2.0
/** Deletions that people are asked about over HTTP. */
@NullMarked
package io.vacancy.web;

import org.jspecify.annotations.NullMarked;
