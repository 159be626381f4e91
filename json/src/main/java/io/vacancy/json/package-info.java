/** The JSON forms of requests, previews, outcomes, receipts and trail entries. */
@NullMarked
package io.vacancy.json;

import org.jspecify.annotations.NullMarked;
