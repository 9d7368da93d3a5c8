"""What the list of designs shows of each, kept with the engine that found it."""

import sqlalchemy as sa
from alembic import op

revision = "0004"
down_revision = "0003"
branch_labels = None
depends_on = None


def upgrade() -> None:
    op.create_table(
        "summaries",
        sa.Column("design_id", sa.Uuid(), sa.ForeignKey("designs.id", ondelete="CASCADE"), primary_key=True),
        sa.Column("revision", sa.Integer(), nullable=False),
        sa.Column("engine", sa.String(40), nullable=False),
        sa.Column("weather_year", sa.String(40)),
        sa.Column("kind", sa.String(20), nullable=False),
        sa.Column("place", sa.String(120), nullable=False),
        sa.Column("hours_carried_h", sa.Float(), nullable=False),
        sa.Column("duration_h", sa.Float(), nullable=False),
        sa.Column("daily_wh", sa.Float(), nullable=False),
        sa.Column("bank_wh", sa.Float(), nullable=False),
        sa.Column("stops", sa.Integer(), nullable=False),
        sa.Column("mends", sa.Integer(), nullable=False),
    )


def downgrade() -> None:
    op.drop_table("summaries")
