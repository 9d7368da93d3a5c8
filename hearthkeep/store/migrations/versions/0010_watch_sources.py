"""Devices and services that are asked for an installation."""

import sqlalchemy as sa
from alembic import op
from sqlalchemy.dialects.postgresql import JSONB

revision = "0010"
down_revision = "0009"
branch_labels = None
depends_on = None


def upgrade() -> None:
    op.create_table(
        "watch_sources",
        sa.Column(
            "installation_id", sa.Uuid(), sa.ForeignKey("installations.id", ondelete="CASCADE"), primary_key=True
        ),
        sa.Column("document", JSONB(), nullable=False),
        sa.Column("saved_at", sa.DateTime(timezone=True), server_default=sa.func.clock_timestamp(), nullable=False),
    )


def downgrade() -> None:
    op.drop_table("watch_sources")
