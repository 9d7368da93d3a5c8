"""Alternatives: designs that belong to another, in a tree with a common root."""

import sqlalchemy as sa
from alembic import op

revision = "0007"
down_revision = "0006"
branch_labels = None
depends_on = None


def upgrade() -> None:
    op.add_column("designs", sa.Column("root_id", sa.Uuid(), sa.ForeignKey("designs.id", ondelete="CASCADE")))
    op.add_column("designs", sa.Column("parent_id", sa.Uuid(), sa.ForeignKey("designs.id", ondelete="SET NULL")))
    op.add_column("designs", sa.Column("label", sa.String(60), server_default="", nullable=False))
    op.create_index("designs_root", "designs", ["root_id"])


def downgrade() -> None:
    op.drop_index("designs_root")
    op.drop_column("designs", "label")
    op.drop_column("designs", "parent_id")
    op.drop_column("designs", "root_id")
