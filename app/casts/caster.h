#pragma once

#include <condition_variable>
#include <memory>
#include <mutex>
#include <optional>
#include <thread>

#include <QObject>

#include "cast/cast.h"

namespace rubble::app {

/// A cast that was made, or why none was.
struct CastOutcome {
    uint64_t request = 0; ///< which one it belongs to
    int place = 0;        ///< among those of the request
    uint64_t seed = 0;
    std::shared_ptr<const cast::Cast> cast; ///< null where none could be made
    std::shared_ptr<const cast::Parts> parts;
    std::string error;
};

/// Casts levels in the background, on a copy of what they are made of; a newer request stops an older one.
class Caster : public QObject {
    Q_OBJECT
public:
    explicit Caster(QObject* parent = nullptr);
    ~Caster() override;

    /// Asks for so many, with seeds from one on. Gives the number of the request.
    uint64_t request(const Project& project, const cast::Rules& rules, uint64_t first_seed, int count);

signals:
    void made(const rubble::app::CastOutcome& outcome);

private:
    struct Job {
        Project project;
        cast::Rules rules;
        uint64_t number, first_seed;
        int count;
        Cancel cancel;
    };
    void work(std::stop_token stop);
    void run(const Job& job);

    std::mutex mutex_;
    std::condition_variable_any wake_;
    std::optional<Job> next_;
    Cancel running_;
    uint64_t last_ = 0;
    std::jthread thread_;
};

} // namespace rubble::app

Q_DECLARE_METATYPE(rubble::app::CastOutcome)
