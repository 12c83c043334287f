#pragma once

#include <QWidget>

#include "session/documents.h"

namespace rubble::app {

/// Height against distance of the character's jump, drawn: the widest gap that is cleared at each rise.
class JumpEnvelope : public QWidget {
public:
    explicit JumpEnvelope(const Documents& documents, QWidget* parent = nullptr);
    QSize sizeHint() const override { return {220, 150}; }

protected:
    void paintEvent(QPaintEvent*) override;

private:
    const Documents& documents_;
};

} // namespace rubble::app
