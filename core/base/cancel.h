#pragma once

#include <atomic>
#include <functional>
#include <memory>

namespace rubble {

/// Tells long work to stop. Copies share one flag; a default one never stops.
class Cancel {
public:
    Cancel() = default;
    /// A new one that has not been requested.
    static Cancel create() {
        Cancel cancel;
        cancel.flag_ = std::make_shared<std::atomic<bool>>(false);
        return cancel;
    }
    /// Asks all who hold a copy to stop.
    void request() const {
        if (flag_) flag_->store(true, std::memory_order_relaxed);
    }
    /// Whether somebody asked to stop.
    bool requested() const { return flag_ && flag_->load(std::memory_order_relaxed); }

private:
    std::shared_ptr<std::atomic<bool>> flag_;
};

/// Told how far long work has come, 0 to 1. May be called from any thread.
using Progress = std::function<void(double)>;

} // namespace rubble
