"""Every piece of a jib where it sits, what goes through its holes, what is bought for it."""
