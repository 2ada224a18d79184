import type { ReactNode } from 'react';
import { Text, type TextProps } from 'react-native';
import { FONTS, TYPE, useTheme } from './theme';

interface Props extends TextProps {
  readonly size?: keyof typeof TYPE;
  readonly tone?: 'ink' | 'soft' | 'good' | 'warn' | 'bad' | 'action';
  readonly strong?: boolean;
  readonly children: ReactNode;
}

/** Running text. */
export const Words = ({ size = 'body', tone = 'ink', strong, style, ...rest }: Props) => {
  const theme = useTheme();
  const colour = { ...theme, soft: theme.inkSoft }[tone];
  return (
    <Text
      {...rest}
      style={[
        {
          color: colour,
          fontFamily: strong ? FONTS.strong : FONTS.text,
          fontSize: TYPE[size],
          lineHeight: Math.round(TYPE[size] * 1.42),
        },
        style,
      ]}
    />
  );
};

interface HeadingProps extends TextProps {
  readonly level: 1 | 2 | 3;
  readonly children: ReactNode;
}

/** A heading, in the family with character; `level` is its place in the page's outline. */
export const Heading = ({ level, style, ...rest }: HeadingProps) => {
  const theme = useTheme();
  const size = { 1: TYPE.title, 2: TYPE.heading, 3: TYPE.large }[level];
  return (
    <Text
      role="heading"
      aria-level={level}
      {...rest}
      style={[
        {
          color: theme.ink,
          fontFamily: FONTS.heading,
          fontSize: size,
          lineHeight: Math.round(size * 1.25),
        },
        style,
      ]}
    />
  );
};
