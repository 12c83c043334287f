#pragma once

#include <memory>
#include <string>

#include <QObject>

#include "cast/cast.h"
#include "newest_job.h"

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

    /// Asks for so many, with seeds from one on. Gives the number of the request.
    uint64_t request(const Project& project, const cast::Rules& rules, uint64_t first_seed, int count) {
        return jobs_.ask({project, rules, first_seed, count});
    }

signals:
    void made(const rubble::app::CastOutcome& outcome);

private:
    struct Job {
        Project project;
        cast::Rules rules;
        uint64_t first_seed;
        int count;
    };
    void run(const Job& job, uint64_t number, const Cancel& cancel);

    NewestJob<Job> jobs_;
};

} // namespace rubble::app

Q_DECLARE_METATYPE(rubble::app::CastOutcome)
