#pragma once

#include <QWidget>

#include "check/pace.h"
#include "newest_job.h"
#include "session/session.h"

namespace rubble::app {

/// Room for the title on the left, and on the right; how far below the top the signs stand, below the sizes
/// of spans (pixels). @{
inline constexpr int pace_title_px = 190, pace_margin_px = 14;
inline constexpr double pace_signs_px = 28;
/// @}

/// The route unrolled over time: height of the ground as a line, spans as arcs in their grade's colour.
class PaceStrip : public QWidget {
    Q_OBJECT
public:
    explicit PaceStrip(Session& session, QWidget* parent = nullptr);
    /// One line high while there is no route to show.
    QSize sizeHint() const override;
    QSize minimumSizeHint() const override;

    /// The run to show; null shows the first claim's that holds, else the first element's.
    void show_run(const check::Witness* witness, const QString& title);
    /// Marks a moment while the run is played.
    void set_moment(std::optional<double> seconds);
    double seconds() const;
    std::vector<Vec3> route() const;
    /// The spans that the run takes, in order.
    std::vector<check::Span> spans() const;
    const std::vector<motion::State>& states() const { return run_.bodies; }
    /// The body, and what elements did by then, at a step of the run.
    motion::PlayState play_at(size_t step) const;
    const QString& title() const { return title_; }
    /// What is known of the run beyond its states; nothing yet right after another one is shown.
    const std::optional<check::Pace>& pace() const { return pace_; }

signals:
    void pointedAt(std::optional<rubble::motion::PlayState> state);
    void runChanged();
    void heightChanged();
    void paceFound(quint64 request, const rubble::check::Pace& pace);

protected:
    void paintEvent(QPaintEvent*) override;
    void mouseMoveEvent(QMouseEvent* event) override;
    void leaveEvent(QEvent*) override;
    bool event(QEvent* event) override;

private:
    void take_result();
    void fit();
    void take(const check::Witness& witness, const QString& title);
    double x_of(double seconds) const;
    struct Job {
        Project project;
        Level level;
        std::shared_ptr<const check::CheckResult> result;
        check::Witness witness;
    };
    /// The earlier version's run to the same end.
    void lay_earlier_over();
    struct Mark {
        double begin_s, end_s;
        QString text;
        check::Span span;
    };
    static std::vector<Mark> marks_of(const Project& project, const check::CheckResult& result,
                                      const check::Witness& witness, const motion::PlayedRun& run);
    /// How high feet stand in the strip: from the lowest of the runs to the highest.
    struct Heights {
        double low, high, top, bottom;
        double y_of(double z) const {
            return bottom - (high > low ? (z - low) / std::max(high - low, 2.0) : 0) * (bottom - top);
        }
    };
    void paint_run(QPainter& painter, const motion::PlayedRun& run, const std::vector<Mark>& marks,
                   const Heights& heights, bool earlier) const;
    void paint_head(QPainter& painter) const;
    double longest_s() const;
    void paint_light(QPainter& painter, double top, double bottom) const;
    void paint_pace(QPainter& painter, double top, double bottom);
    /// What stands at a place of the strip, in words.
    QString said_at(QPointF at) const;

    Session& session_;
    motion::PlayedRun run_;
    check::Witness witness_; ///< that `run_` is of
    std::vector<Mark> marks_;
    struct Earlier {
        motion::PlayedRun run;
        std::vector<Mark> marks;
    };
    std::optional<Earlier> earlier_;
    std::shared_ptr<const Beside> laid_over_; ///< the version that it is of
    QString title_;
    std::optional<double> moment_;
    uint64_t shown_version_ = 0;
    std::optional<check::Pace> pace_;
    quint64 request_ = 0;
    NewestJob<Job> jobs_; ///< the last: it uses the others
};

} // namespace rubble::app

Q_DECLARE_METATYPE(rubble::check::Pace)
