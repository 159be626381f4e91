package io.vacancy;

/** Under a receipt nothing is left of what a request means. To whoever was shown something it is a change; else misuse. */
final class NothingLeftException extends RuntimeException {

    private final String hint;

    NothingLeftException(String message, String hint) {
        super(message);
        this.hint = hint;
    }

    String hint() {
        return hint;
    }
}
