// SPDX-License-Identifier: Apache-2.0
package io.vacancy.spring.boot;

import io.vacancy.listener.Listener;
import io.vacancy.listener.Progress;
import io.vacancy.outcome.Outcome;
import io.vacancy.outcome.Receipt;
import io.vacancy.preview.Preview;
import io.vacancy.request.Request;
import io.vacancy.trail.TrailEntry;
import java.util.List;

/** All listeners of an application, in their order. */
record Listeners(List<Listener> all) implements Listener {

    @Override
    public void previewed(Preview preview) {
        all.forEach(each -> each.previewed(preview));
    }

    @Override
    public void ended(Request request, Outcome outcome) {
        all.forEach(each -> each.ended(request, outcome));
    }

    @Override
    public void entryNotWritten(TrailEntry entry) {
        all.forEach(each -> each.entryNotWritten(entry));
    }

    @Override
    public void afterCommitFailed(Request request, Receipt receipt, String warning) {
        all.forEach(each -> each.afterCommitFailed(request, receipt, warning));
    }

    @Override
    public void retried(Request request, int attempt, String why) {
        all.forEach(each -> each.retried(request, attempt, why));
    }

    @Override
    public void progress(Request request, Progress progress) {
        all.forEach(each -> each.progress(request, progress));
    }
}
