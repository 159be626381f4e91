/** What a person is asked, and what was answered. */
@NullMarked
package io.vacancy.question;

import org.jspecify.annotations.NullMarked;
