// SPDX-License-Identifier: Apache-2.0
package io.vacancy.trail;

import java.util.concurrent.atomic.AtomicReference;
import org.jspecify.annotations.Nullable;
import org.slf4j.Logger;
import org.slf4j.LoggerFactory;

/**
 * Writes every head to the application's log, and remembers the last one as long as the process runs. What the log has
 * proves later, given to {@link io.vacancy.Trail#verify(ChainHead)}, up to where the history was sealed.
 */
public final class LogAnchor implements ChainAnchor {

    private static final Logger LOG = LoggerFactory.getLogger(LogAnchor.class);

    private final AtomicReference<@Nullable ChainHead> last = new AtomicReference<>();

    @Override
    public @Nullable ChainHead remembered() {
        return last.get();
    }

    @Override
    public void remember(ChainHead head) {
        ChainHead now = last.updateAndGet(known -> known != null && known.position() >= head.position() ? known : head);
        if (head.equals(now)) {
            LOG.info("the audit history is sealed up to {}", head);
        }
    }
}
