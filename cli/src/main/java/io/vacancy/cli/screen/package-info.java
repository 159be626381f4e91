/** What people read: previews, questions, outcomes and relations as text. */
@NullMarked
package io.vacancy.cli.screen;

import org.jspecify.annotations.NullMarked;
