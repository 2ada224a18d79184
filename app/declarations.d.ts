/** Sizes and rotation apart, the icons' module files have no types of their own. */
declare module 'lucide-react-native/icons/*' {
  const Icon: (props: { size?: number; color?: string; strokeWidth?: number }) => React.JSX.Element;
  export default Icon;
}
