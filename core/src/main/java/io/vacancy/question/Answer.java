package io.vacancy.question;

/**
 * What a person replied to a question. It holds for what the question showed and for nothing else.
 *
 * @param text as it was typed
 * @param accepted whether it agrees to what was asked
 * @param fingerprint of the preview that was shown
 */
public record Answer(String text, boolean accepted, String fingerprint) {}
