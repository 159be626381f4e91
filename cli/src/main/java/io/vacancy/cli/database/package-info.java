/** Opening the database that the user named, and never another. */
@NullMarked
package io.vacancy.cli.database;

import org.jspecify.annotations.NullMarked;
