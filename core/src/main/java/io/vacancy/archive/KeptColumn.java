package io.vacancy.archive;

/**
 * A column as it was when an image was made.
 *
 * @param declared its type as the database wrote it
 */
public record KeptColumn(String name, String declared) {

    /** Stands before the name where the column has what a link held. */
    public static final String OLD = "old:";

    /** Stands before the name where the column has what was written into a link, not what was there before. */
    public static final String WRITTEN = "written:";
}
