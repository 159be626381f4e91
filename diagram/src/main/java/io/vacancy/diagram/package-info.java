/** Schemas and previews as pictures: tables as boxes, relations as labelled arrows. */
@NullMarked
package io.vacancy.diagram;

import org.jspecify.annotations.NullMarked;
