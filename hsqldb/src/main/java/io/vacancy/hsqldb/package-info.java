/** HSQLDB: an engine brought by a module of its own, to show that nothing else has to know of it. */
@NullMarked
package io.vacancy.hsqldb;

import org.jspecify.annotations.NullMarked;
