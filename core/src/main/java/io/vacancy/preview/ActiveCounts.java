package io.vacancy.preview;

/**
 * What people who look at a table see, and what is stored, before and after; only of tables that have a marker.
 *
 * @param activeBefore rows that are active now
 * @param storedBefore all rows there are now
 * @param activeAfter rows that would be active
 * @param storedAfter all rows there would be
 * @param leftOut rows that the selection means and that are left out, because they are marked as deleted or, where
 *     rows are to come back, because they are not
 */
public record ActiveCounts(long activeBefore, long storedBefore, long activeAfter, long storedAfter, long leftOut) {}
