#pragma once

#include <QWidget>

#include "session.h"

namespace rubble::app {

/// Height against distance of the character's jump, drawn: the widest gap that is cleared at each rise.
class JumpEnvelope : public QWidget {
public:
    explicit JumpEnvelope(Session& session, QWidget* parent = nullptr);
    QSize sizeHint() const override { return {220, 150}; }

protected:
    void paintEvent(QPaintEvent*) override;

private:
    Session& session_;
};

} // namespace rubble::app
